// npm run bench:changes: changes of a large ledger, and what follows them. Nothing here asserts.

import type { AccountListDto, CompanyDto, EntryListDto } from '@wise-margin/contract';

import { onLargeLedger, say } from './large-server.ts';

const LINES = Number(process.argv[2] ?? 1_000_000);
const MOVED = Number(process.argv[3] ?? 100_000);
const TURNS = 4;
await onLargeLedger('Changes', LINES, async (server) => {
  const at = '/companies/1';
  const { lastPosted, years } = await server.get<CompanyDto>(at);
  const chart = await server.get<AccountListDto>(`${at}/accounts?year=${years.at(-1)}`);
  const targets = chart.accounts.filter(({ active, statement }) => active && statement === 'income').map(({ number }) => number);
  const timed = async (work: () => Promise<unknown>): Promise<string> => {
    const from = performance.now();
    await work();
    return `${(performance.now() - from).toFixed(0)} ms`;
  };
  const move = (lines: readonly number[], account: string) =>
    fetch(`${server.base}${at}/reclassifications`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ lines, account, reason: 'Measured' }),
    });
  const asked = [
    ['income statement', `${at}/statements/income?asOf=${lastPosted}`],
    ['sales by customer', `${at}/statements/customers?asOf=${lastPosted}`],
    ['trial balance', `${at}/reports/trial-balance?range=${lastPosted}`],
    ['account detail of a month', `${at}/reports/account-detail?range=${lastPosted}`],
    ['aging', `${at}/reports/aging`],
  ] as const;
  for (const [name, path] of asked)
    say(`${name}, first: ${await timed(() => server.get(path))}; again: ${await timed(() => server.get(path))}`);
  const { lines } = await server.get<EntryListDto>(`${at}/entries?limit=1`);
  for (let turn = 0; turn < TURNS; turn += 1) {
    const change = await timed(() => move([lines[0]!.lineId], targets[turn % 2]!));
    const after: string[] = [];
    for (const [name, path] of asked.slice(0, 3)) after.push(`${name} ${await timed(() => server.get(path))}`);
    say(`one line moved: ${change}; then ${after.join(', ')}`);
  }
  const many = Array.from({ length: MOVED }, (_, at) => at * 2 + 1);
  say(`${MOVED.toLocaleString('en-US')} lines moved: ${await timed(() => move(many, targets[0]!))}`);
  say(`the server took ${server.peakMegabytes().toFixed(0)} MB at most`);
});
