import { type ChildProcess, spawn } from 'node:child_process';
import { existsSync, mkdtempSync, openAsBlob, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

import type { ImportDto } from '@wise-margin/contract';

const root = fileURLToPath(new URL('../..', import.meta.url));

export type ServerProcess = {
  readonly base: string;
  readonly child: ChildProcess;
  readonly get: <Answer>(path: string) => Promise<Answer>;
  readonly upload: (target: Readonly<Record<string, string>>, files: Readonly<Record<string, string>>) => Promise<ImportDto>;
  /** Sends a signal and waits for the end. @returns exit code and signal */
  readonly stop: (signal: NodeJS.Signals) => Promise<readonly [number | null, NodeJS.Signals | null]>;
  /** largest resident memory so far, in MB (Linux; 0 elsewhere) */
  readonly peakMegabytes: () => number;
};
export const temporaryFolder = (): string => mkdtempSync(join(tmpdir(), 'wise-margin-process-'));

/** The built server as a process of its own, on a free port of 127.0.0.1. */
export async function startProcess(directory: string): Promise<ServerProcess> {
  const main = join(root, 'apps/server/dist/main.js');
  if (!existsSync(main)) throw new Error('Build the application first: npm run build');
  const child = spawn(process.execPath, [main], {
    cwd: root,
    env: { ...process.env, WISE_MARGIN_DATA: directory, PORT: '0', WISE_MARGIN_HOST: '127.0.0.1' },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const port = await new Promise<string>((resolve, reject) => {
    child.stdout!.on('data', (text: Buffer) => {
      const match = /localhost:(\d+)/.exec(text.toString());
      if (match) resolve(match[1]!);
    });
    child.once('exit', (code) => reject(new Error(`the server ended with ${code}`)));
  });
  const base = `http://127.0.0.1:${port}/api`;
  const get = async <Answer>(path: string): Promise<Answer> => (await fetch(base + path)).json() as Promise<Answer>;
  return {
    base,
    child,
    get,
    upload: async (target, files) => {
      const form = new FormData();
      for (const [name, value] of Object.entries(target)) form.set(name, value);
      for (const [kind, path] of Object.entries(files)) form.set(kind, await openAsBlob(path), `${kind}.csv`);
      let made = (await (await fetch(`${base}/imports`, { method: 'POST', body: form })).json()) as ImportDto;
      while (made.state === 'checking') {
        await new Promise((resolve) => setTimeout(resolve, 200));
        made = await get<ImportDto>(`/imports/${made.id}`);
      }
      return made;
    },
    stop: (signal) =>
      new Promise((resolve) => {
        child.once('exit', (code, ended) => resolve([code, ended]));
        child.kill(signal);
      }),
    peakMegabytes: () => {
      const status = `/proc/${child.pid}/status`;
      const match = existsSync(status) ? /VmHWM:\s+(\d+) kB/.exec(readFileSync(status, 'utf8')) : null;
      return match ? Number(match[1]) / 1024 : 0;
    },
  };
}
