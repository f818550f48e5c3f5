import { gannetRockFiles, ternIslandFiles } from '@wise-margin/demo';

/** The CSV files of the demo companies, by folder and name without `.csv`. Always the same for the same release. */
export type DemoFiles = Readonly<Record<DemoFolder, Readonly<Record<string, string>>>>;
export type DemoFolder = 'tern-island' | 'gannet-rock';

/** Writes the ledgers of both demo companies: about a second of work, for a worker. */
export const demoFiles = (): Promise<DemoFiles> => Promise.resolve({ 'tern-island': ternIslandFiles(), 'gannet-rock': gannetRockFiles() });
