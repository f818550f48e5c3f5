// npm run bench:search: the search over everything, on a large ledger through HTTP. Nothing here asserts.

import type { SearchDto } from '@wise-margin/contract';

import { onLargeLedger, say } from './large-server.ts';

const LINES = Number(process.argv[2] ?? 1_000_000);
const TURNS = 5;
await onLargeLedger('Search', LINES, async (server) => {
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
});
