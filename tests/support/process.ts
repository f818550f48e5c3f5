import { type ChildProcess, fork, spawn } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, mkdtempSync, openAsBlob, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

import type { ImportDto } from '@wise-margin/contract';

const root = fileURLToPath(new URL('../..', import.meta.url));

export type ServedFolder = {
  readonly base: string;
  readonly get: <Answer>(path: string) => Promise<Answer>;
  readonly upload: (target: Readonly<Record<string, string>>, files: Readonly<Record<string, string>>) => Promise<ImportDto>;
};
export type ServerProcess = ServedFolder & {
  readonly child: ChildProcess;
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
  return {
    ...servedAt(port),
    child,
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

function servedAt(port: string): ServedFolder {
  const base = `http://127.0.0.1:${port}/api`;
  const get = async <Answer>(path: string): Promise<Answer> => (await fetch(base + path)).json() as Promise<Answer>;
  return {
    base,
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
  };
}

/** Starts the process that serves any number of folders. @returns its address, and what ends it */
export async function startFolders(): Promise<{ readonly address: string; readonly stop: () => Promise<void> }> {
  const child = fork(join(root, 'tests/support/serve-folders.mjs'), { cwd: root });
  const [{ port }] = (await once(child, 'message')) as [{ port: number }];
  return {
    address: `http://127.0.0.1:${port}`,
    stop: async () => {
      const ended = once(child, 'exit');
      child.disconnect();
      await ended;
    },
  };
}

/** A folder served by that process, and what closes it. */
export async function serveFolder(address: string, directory: string): Promise<ServedFolder & { readonly close: () => Promise<void> }> {
  const opened = await fetch(address, { method: 'POST', body: directory });
  const port = await opened.text();
  if (!opened.ok) throw new Error(port);
  return {
    ...servedAt(port),
    close: async () => {
      const closed = await fetch(`${address}/${port}`, { method: 'DELETE' });
      if (!closed.ok) throw new Error(await closed.text());
    },
  };
}
