// npm run bench:entries: the list of entries of a large ledger, any filter and any page. Nothing here asserts.

import type { EntryListDto } from '@wise-margin/contract';

import { onLargeLedger, say } from './large-server.ts';

const LINES = Number(process.argv[2] ?? 1_000_000);
const TURNS = 5;
await onLargeLedger('Entries', LINES, async (server) => {
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
});
