// npm run bench:heavy: the work that must not hold up other requests, each with the longest wait of another request beside it.
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import type { ImportDto } from '@wise-margin/contract';

import { largeAccountsCsv, writeLargeLedger } from '../tests/support/large-ledger.ts';
import { type ServerProcess, startProcess } from '../tests/support/process.ts';

const ACCOUNTS = 10_000;
const COLUMNS = 1500;
const BETWEEN = 25;
const folder = mkdtempSync(join(tmpdir(), 'wise-margin-heavy-'));

/** Does the work and asks for the list of companies beside it again and again. */
async function beside<Result>(server: ServerProcess, what: string, work: () => Promise<Result>): Promise<Result> {
  let isDone = false;
  let longest = 0;
  const from = performance.now();
  const watch = (async () => {
    while (!isDone) {
      const asked = performance.now();
      await server.get('/companies');
      longest = Math.max(longest, performance.now() - asked);
      await new Promise((resolve) => setTimeout(resolve, BETWEEN));
    }
  })();
  const result = await work().finally(() => {
    isDone = true;
  });
  await watch;
  const seconds = ((performance.now() - from) / 1000).toFixed(1);
  process.stdout.write(`${what}: ${seconds} s; another request waited at most ${longest.toFixed(0)} ms\n`);
  return result;
}

const server = await startProcess(join(folder, 'data'));
try {
  const accounts = join(folder, 'accounts.csv');
  const ledger = join(folder, 'ledger.csv');
  writeFileSync(accounts, largeAccountsCsv(ACCOUNTS));
  writeLargeLedger(ledger, { lines: 120_000, accounts: ACCOUNTS, years: 3, departments: 4 });
  const target = { name: 'Heavy', currency: 'USD', startMonth: '1' };
  const made = await server.upload(target, { accounts, ledger });
  const posted = (await (await fetch(`${server.base}/imports/${made.id}/post`, { method: 'POST' })).json()) as ImportDto;
  const at = `${server.base}/companies/${posted.companyId}/statements`;
  for (const view of ['income', 'trend']) {
    const rows = (await (await fetch(`${at}/${view}/export.csv?asOf=2023-06&open=all`)).text()).split('\n').length;
    const bytes = await beside(server, `PDF of ${view}, ${rows.toLocaleString('en-US')} rows`, async () => {
      const response = await fetch(`${at}/${view}/export.pdf?asOf=2023-06&open=all`);
      return response.ok ? (await response.arrayBuffer()).byteLength : `${response.status} ${await response.text()}`;
    });
    process.stdout.write(`  ${typeof bytes === 'number' ? `${(bytes / 1e6).toFixed(1)} MB` : bytes}\n`);
  }

  // an import whose file has 1,500 columns that are no known ones, and so dimensions
  const wide = join(folder, 'wide.csv');
  const names = Array.from({ length: COLUMNS }, (_, index) => `d${index}`);
  const row = (entry: number, account: string, debit: string, credit: string) =>
    [`W-${entry}`, '2023-07-03', account, debit, credit, ...names.map((_, index) => `v${(entry + index) % 7}`)].join(',');
  const lines = Array.from({ length: 1000 }, (_, entry) => [row(entry, '10000', '5.00', ''), row(entry, '10001', '', '5.00')]).flat();
  writeFileSync(wide, [['entry', 'date', 'account', 'debit', 'credit', ...names].join(','), ...lines].join('\n'));
  const checked = await beside(server, `Check of an import with ${COLUMNS.toLocaleString('en-US')} dimension columns, 2,000 rows`, () =>
    server.upload({ company: String(posted.companyId) }, { ledger: wide }),
  );
  process.stdout.write(`  ${checked.state}, ${checked.issueCount} errors: ${checked.issues[0]?.reason ?? checked.failure ?? 'none'}\n`);
} finally {
  await server.stop('SIGTERM');
  rmSync(folder, { recursive: true, force: true });
}
