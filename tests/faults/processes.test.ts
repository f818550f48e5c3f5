import { spawn } from 'node:child_process';
import { rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { type ServerProcess, startProcess, temporaryFolder } from '../support/process.ts';
import { ACCOUNTS, GOOD_LEDGER, NEW_COMPANY } from '../support/small-ledger.ts';

const root = fileURLToPath(new URL('../..', import.meta.url));
const folder = temporaryFolder();
const data = join(folder, 'data');
let server: ServerProcess;
const write = (name: string, text: string): string => {
  const path = join(folder, name);
  writeFileSync(path, text);
  return path;
};
/** Runs a built command to its end. */
const run = (script: string, args: readonly string[], env: NodeJS.ProcessEnv = {}) =>
  new Promise<{ code: number | null; out: string; err: string }>((resolve) => {
    const child = spawn(process.execPath, [join(root, script), ...args], { cwd: root, env: { ...process.env, ...env } });
    const output = { out: '', err: '' };
    child.stdout.on('data', (text: Buffer) => (output.out += text.toString()));
    child.stderr.on('data', (text: Buffer) => (output.err += text.toString()));
    child.once('exit', (code) => resolve({ code, ...output }));
  });
const wm = (...args: string[]) => run('apps/cli/dist/bin.js', [...args, '--data', data]);

beforeAll(async () => {
  server = await startProcess(data);
  const made = await server.upload(NEW_COMPANY, { accounts: write('a.csv', ACCOUNTS), ledger: write('l.csv', GOOD_LEDGER) });
  await fetch(`${server.base}/imports/${made.id}/post`, { method: 'POST' });
});
afterAll(async () => {
  await server.stop('SIGTERM');
  rmSync(folder, { recursive: true, force: true });
});

describe('one owner of a data folder', () => {
  it('a second server says who has it and ends', async () => {
    const second = await run('apps/server/dist/main.js', [], { WISE_MARGIN_DATA: data, PORT: '0', WISE_MARGIN_HOST: '127.0.0.1' });
    expect(second.code).toBe(1);
    expect(second.err).toContain(`in use by process ${server.child.pid}`);
    expect(second.err).not.toContain('    at ');
  });
  it('the command line works beside a server that is writing', async () => {
    const edits = Array.from({ length: 30 }, (_, index) =>
      fetch(`${server.base}/companies/1/budgets`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ name: `Plan ${index}`, year: 2027, from: 2026, change: '1' }),
      }).then(({ status }) => status),
    );
    const verbs = await Promise.all([
      ...['CLI 1', 'CLI 2', 'CLI 3'].map((name) =>
        wm('budget', 'create', '--year', '2027', '--from', '2026', '--change', '3%', '--name', name, '--unposted-as-zero'),
      ),
      wm('trial-balance', '--as-of', '2026-02'),
    ]);
    expect(verbs.map(({ code, err }) => [code, err.includes('SQLITE')])).toEqual(verbs.map(() => [0, false]));
    expect(await Promise.all(edits)).toEqual(edits.map(() => 201));
    expect(await server.get<unknown[]>('/companies/1/budgets')).toHaveLength(33);
  });
});

describe('long work', () => {
  it('runs apart: while PDFs are made others are answered, and what comes is whole', async () => {
    // starts the threads, which is not what is measured here
    const one = () => fetch(`${server.base}/companies/1/statements/income-months/export.pdf?asOf=2026-02&open=all`);
    expect((await one()).status).toBe(200);
    let isDone = false;
    // each is read as it comes: a body left unread while the others are made loses its connection after five seconds
    const making = Promise.all([1, 2, 3, 4].map(async () => (await one()).arrayBuffer())).finally(() => {
      isDone = true;
    });
    let answered = 0;
    while (!isDone) {
      expect((await fetch(`${server.base}/health`)).status).toBe(200);
      answered += 1;
    }
    expect(answered).toBeGreaterThan(20);
    for (const pdf of await making) expect(Buffer.from(pdf).subarray(0, 5).toString()).toBe('%PDF-');
  });
  it('a spreadsheet and the checks of a budget come from the same threads', async () => {
    const sheet = await fetch(`${server.base}/companies/1/statements/income/export.xlsx?asOf=2026-02`);
    expect([
      sheet.status,
      Buffer.from(await sheet.arrayBuffer())
        .subarray(0, 2)
        .toString(),
    ]).toEqual([200, 'PK']);
    const checks = await fetch(`${server.base}/companies/1/budgets/1/checks`);
    expect([checks.status, Array.isArray(((await checks.json()) as { items: unknown[] }).items)]).toEqual([200, true]);
  });
});
