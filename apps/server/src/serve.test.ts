import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import { pino } from 'pino';
import { afterEach, expect, it } from 'vitest';

import { serve, type ServeOptions, type Serving } from './serve.ts';
import { inlinePool } from './work/work-pool.ts';

const folders: string[] = [];
const open: Serving[] = [];
afterEach(async () => {
  for (const serving of open.splice(0)) await serving.close();
  for (const folder of folders.splice(0)) rmSync(folder, { recursive: true, force: true });
});
const newFolder = (): string => {
  const folder = mkdtempSync(join(tmpdir(), 'wise-margin-serve-'));
  folders.push(folder);
  return folder;
};
async function served(directory: string, choice: Partial<ServeOptions> = {}): Promise<Serving> {
  const serving = await serve({
    ...{ directory, host: '127.0.0.1', port: 0, nextPort: false, hostNames: [], webDirectory: directory },
    actor: { name: 'Tester', now: () => new Date('2026-11-09T08:00:00Z') },
    mail: { transport: null, from: 'wise-margin@localhost', url: 'http://localhost' },
    work: inlinePool(),
    logger: pino({ level: 'silent' }),
    ...choice,
  });
  open.push(serving);
  return serving;
}

it('takes the next free port when the one it begins with is taken', async () => {
  const { port } = await served(newFolder());
  const next = await served(newFolder(), { port, nextPort: true });
  expect(next.port).toBeGreaterThan(port);
  expect((await fetch(`http://127.0.0.1:${next.port}/api/companies`)).status).toBe(200);
});

it('refuses a port that was asked for and is taken, and lets go of the folder', async () => {
  const { port } = await served(newFolder());
  const folder = newFolder();
  await expect(served(folder, { port })).rejects.toThrow('EADDRINUSE');
  await served(folder);
});

it('keeps an idle connection for 65 seconds', async () => {
  const { port } = await served(newFolder());
  const answer = await fetch(`http://127.0.0.1:${port}/api/companies`);
  await answer.text();
  expect(answer.headers.get('keep-alive')).toBe('timeout=65');
});
