// npm run bench:search: the search over everything, on a large ledger through HTTP. Nothing here asserts.
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import type { SearchDto } from '@wise-margin/contract';

import { largeAccountsCsv, writeLargeLedger } from '../tests/support/large-ledger.ts';
import { startProcess } from '../tests/support/process.ts';

const LINES = Number(process.argv[2] ?? 1_000_000);
const ACCOUNTS = 500;
const TURNS = 5;
const folder = mkdtempSync(join(tmpdir(), 'wise-margin-search-'));
const say = (text: string): boolean => process.stdout.write(`${text}\n`);
const server = await startProcess(join(folder, 'data'));
try {
  const accounts = join(folder, 'accounts.csv');
  const ledger = join(folder, 'ledger.csv');
  writeFileSync(accounts, largeAccountsCsv(ACCOUNTS));
  writeLargeLedger(ledger, { lines: LINES, accounts: ACCOUNTS, years: 5, departments: 4 });
  const made = await server.upload({ name: 'Search', currency: 'USD', startMonth: '1' }, { accounts, ledger });
  await fetch(`${server.base}/imports/${made.id}/post`, { method: 'POST' });
  const search = (q: string): Promise<SearchDto> => server.get(`/companies/1/search?q=${encodeURIComponent(q)}`);
  const timed = async (q: string): Promise<number> => {
    const from = performance.now();
    await search(q);
    return performance.now() - from;
  };
  say(`${LINES.toLocaleString('en-US')} lines; opening the search the first time: ${(await timed('')).toFixed(0)} ms`);
  const from = performance.now();
  let longest = 0;
  while ((await search('')).pending > 0) {
    const asked = performance.now();
    await server.get('/companies');
    longest = Math.max(longest, performance.now() - asked);
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
  say(
    `the index of entries was made in ${((performance.now() - from) / 1000).toFixed(1)} s beside it; another request waited at most ${longest.toFixed(0)} ms`,
  );
  for (const q of [
    'generated',
    'D123456',
    'party 7',
    'd1',
    'g',
    'jan 2023',
    '1234',
    '>50k',
    '>1',
    '10100',
    'income',
    'party generated d1',
    'nothing like it',
  ]) {
    const cold = await timed(q);
    const turns: number[] = [];
    for (let turn = 0; turn < TURNS; turn += 1) turns.push(await timed(q));
    say(
      `${q.padEnd(20)} ${cold.toFixed(0)} ms first, ${Math.min(...turns).toFixed(0)} to ${Math.max(...turns).toFixed(0)} ms again, ${(await search(q)).hits.length} found`,
    );
  }
} finally {
  await server.stop('SIGTERM');
  rmSync(folder, { recursive: true, force: true });
}
