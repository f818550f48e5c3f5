export const CHECK_WORKER: string;
export function bundle(entryPoints: Readonly<Record<string, string>>, outdir: string): Promise<void>;
