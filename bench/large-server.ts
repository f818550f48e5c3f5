import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import { largeAccountsCsv, writeLargeLedger } from '../tests/support/large-ledger.ts';
import { type ServerProcess, startProcess } from '../tests/support/process.ts';

const ACCOUNTS = 500;
export const say = (text: string): boolean => process.stdout.write(`${text}\n`);

/** Runs work against a server with one company of a large ledger: 500 accounts, five years, four departments. */
export async function onLargeLedger(name: string, lines: number, work: (server: ServerProcess) => Promise<void>): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), `wise-margin-${name.toLowerCase()}-`));
  const server = await startProcess(join(folder, 'data'));
  try {
    const [accounts, ledger] = [join(folder, 'accounts.csv'), join(folder, 'ledger.csv')];
    writeFileSync(accounts, largeAccountsCsv(ACCOUNTS));
    writeLargeLedger(ledger, { lines, accounts: ACCOUNTS, years: 5, departments: 4 });
    const made = await server.upload({ name, currency: 'USD', startMonth: '1' }, { accounts, ledger });
    await fetch(`${server.base}/imports/${made.id}/post`, { method: 'POST' });
    await work(server);
  } finally {
    await server.stop('SIGTERM');
    rmSync(folder, { recursive: true, force: true });
  }
}
