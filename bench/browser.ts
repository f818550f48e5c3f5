// What benchmarks in the browser share: a browser, and companies of a size in servers of their own.
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import { chromium } from '@playwright/test';

import { largeAccountsCsv, writeLargeLedger } from '../tests/support/large-ledger.ts';
import { type ServerProcess, startProcess } from '../tests/support/process.ts';

const folder = mkdtempSync(join(tmpdir(), 'wise-margin-screens-'));
export const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;
export const tell = ({ what, measured }: { readonly what: string; readonly measured: string }): void =>
  void process.stdout.write(`${what}: ${measured}\n`);

/** A company of a number of accounts in a data folder of its own. */
export async function company(accounts: number): Promise<ServerProcess> {
  const files = { accounts: join(folder, `accounts-${accounts}.csv`), ledger: join(folder, `ledger-${accounts}.csv`) };
  writeFileSync(files.accounts, largeAccountsCsv(accounts));
  writeLargeLedger(files.ledger, { lines: accounts * 100, accounts, years: 5, departments: 4 });
  const server = await startProcess(join(folder, `data-${accounts}`));
  const made = await server.upload({ name: 'Bench', currency: 'USD', startMonth: '1' }, files);
  await fetch(`${server.base}/imports/${made.id}/post`, { method: 'POST' });
  return server;
}

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM_PATH ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
});
export const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });

page.setDefaultTimeout(20_000);

/** Closes the browser and clears what was made. */
export async function end(): Promise<void> {
  await browser.close();
  rmSync(folder, { recursive: true, force: true });
}
