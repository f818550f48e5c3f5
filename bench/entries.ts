// npm run bench:entries: the list of entries of a large ledger, any filter and any page. Nothing here asserts.
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import type { EntryListDto } from '@wise-margin/contract';

import { largeAccountsCsv, writeLargeLedger } from '../tests/support/large-ledger.ts';
import { startProcess } from '../tests/support/process.ts';

const LINES = Number(process.argv[2] ?? 1_000_000);
const ACCOUNTS = 500;
const TURNS = 5;
const folder = mkdtempSync(join(tmpdir(), 'wise-margin-entries-'));
const say = (text: string): boolean => process.stdout.write(`${text}\n`);
const server = await startProcess(join(folder, 'data'));
try {
  const accounts = join(folder, 'accounts.csv');
  const ledger = join(folder, 'ledger.csv');
  writeFileSync(accounts, largeAccountsCsv(ACCOUNTS));
  writeLargeLedger(ledger, { lines: LINES, accounts: ACCOUNTS, years: 5, departments: 4 });
  const made = await server.upload({ name: 'Entries', currency: 'USD', startMonth: '1' }, { accounts, ledger });
  await fetch(`${server.base}/imports/${made.id}/post`, { method: 'POST' });
  const page = (query: string): Promise<EntryListDto> => server.get(`/companies/1/entries?limit=200&${query}`);
  const timed = async (query: string): Promise<number> => {
    const from = performance.now();
    await page(query);
    return performance.now() - from;
  };
  // while the table is read the first time, another request is asked for again and again
  let longest = 0;
  let isRead = false;
  const first = timed('').finally(() => {
    isRead = true;
  });
  while (!isRead) {
    const from = performance.now();
    await server.get('/companies');
    longest = Math.max(longest, performance.now() - from);
  }
  say(
    `${LINES.toLocaleString('en-US')} lines, read the first time: ${((await first) / 1000).toFixed(1)} s; another request waited at most ${longest.toFixed(0)} ms`,
  );
  const queries = [
    ['none', ''],
    ['last page', `after=${LINES - 200}`],
    ['three months', 'from=2023-04&to=2023-06'],
    ['accounts', 'accounts=10000-10100'],
    ['an amount', 'least=100000&most=110000'],
    ['a department', 'filter.department=Department 2'],
    ['a party', 'filter.party=Party 7'],
    ['a text that stands in every line', 'find=generated'],
    ['a text that stands in few', 'find=D123456'],
    ['all together', 'from=2022-01&accounts=10000-10300&least=5000&filter.department=Department 1&find=party'],
    ['sorted by amount', 'sort=amount'],
    ['sorted by party, in the middle', `sort=party&after=${LINES / 2}`],
  ] as const;
  for (const [name, query] of queries) {
    const cold = await timed(query);
    const turns: number[] = [];
    for (let turn = 0; turn < TURNS; turn += 1)
      turns.push(await timed(`${query}&after=${200 + turn}`.replace(/^(.*after=\d+)&after=\d+$/, '$1')));
    say(`${name}: ${cold.toFixed(0)} ms first, ${turns.sort((a, b) => a - b)[TURNS >> 1]!.toFixed(0)} ms after`);
  }
  say(`${Math.round(server.peakMegabytes())} MB at most`);
} finally {
  await server.stop('SIGTERM');
  rmSync(folder, { recursive: true, force: true });
}
