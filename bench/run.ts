// npm run bench: measures the goals of speed and prints them as a table with ratios. Nothing here asserts.
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { cpus, tmpdir } from 'node:os';
import { join } from 'node:path';

import { DuckDBInstance } from '@duckdb/node-api';
import { budgetEditRequestSchema, newBudgetSchema, newCompanySchema, type PackedGrid } from '@wise-margin/contract';
import { evaluate, INCOME_LINES, MONTHS_COLUMNS, periodOfKey, planStatement } from '@wise-margin/core';
import { unpackGrid } from '@wise-margin/presentation';
import { openApplication, ScenarioCache } from '@wise-margin/server';

import { largeAccountsCsv, writeLargeLedger } from '../tests/support/large-ledger.ts';
import { startProcess } from '../tests/support/process.ts';

type Row = { what: string; measured: string; ratio: string };
const rows: Row[] = [];
const folder = mkdtempSync(join(tmpdir(), 'wise-margin-bench-'));
const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;
const milliseconds = (value: number): string => `${value < 10 ? value.toFixed(2) : value.toFixed(0)} ms`;
async function time(times: number, work: () => unknown): Promise<number> {
  const taken: number[] = [];
  for (let turn = 0; turn < times; turn += 1) {
    const from = performance.now();
    await work();
    taken.push(performance.now() - from);
  }
  return median(taken);
}
// sizes may be given: npm run bench -- 100000
const given = process.argv.slice(2).map(Number);
const SIZES = given.length > 0 ? given : [10_000, 100_000, 1_000_000];
const ACCOUNTS = 500;
const AS_OF = '2025-06';

const warmBySize: number[] = [];
for (const lines of SIZES) {
  const accounts = join(folder, 'accounts.csv');
  const ledger = join(folder, `ledger-${lines}.csv`);
  writeFileSync(accounts, largeAccountsCsv(ACCOUNTS));
  const written = writeLargeLedger(ledger, { lines, accounts: ACCOUNTS, years: 5, departments: 4 });
  const directory = join(folder, `data-${lines}`);
  const server = await startProcess(directory);
  const from = performance.now();
  const checked = await server.upload(
    newCompanySchema.parse({ name: 'Bench', currency: 'USD', startMonth: 1 }) as unknown as Record<string, string>,
    { accounts, ledger },
  );
  const checkedAt = performance.now();
  await fetch(`${server.base}/imports/${checked.id}/post`, { method: 'POST' });
  const seconds = (performance.now() - from) / 1000;
  rows.push({
    what: `import of ${written.toLocaleString('en-US')} lines, upload to posted`,
    measured: `${seconds.toFixed(1)} s (check ${((checkedAt - from) / 1000).toFixed(1)} s), ${Math.round(written / seconds).toLocaleString('en-US')} lines a second, ${Math.round(server.peakMegabytes())} MB at most`,
    ratio: lines === 1_000_000 ? `${(written / seconds / 60_000).toFixed(2)} of the goal of 60,000 a second` : '',
  });
  const path = `${server.base}/companies/1/statements/income-months?asOf=${AS_OF}`;
  const get = async () => unpackGrid((await (await fetch(path)).json()) as PackedGrid);
  const httpCold = await time(1, get);
  await time(30, get);
  const http = await time(30, get);
  await server.stop('SIGTERM');

  const application = await openApplication({ directory, recover: false, actor: { name: 'Bench', now: () => new Date() } });
  let books = await application.booksCache.of(1);
  const cold = await time(1, async () => {
    books = await application.booksCache.of(1);
    books.cube.slab({});
  });
  const { sources } = await new ScenarioCache(application.budgetStore).of(books, {
    actuals: await application.booksCache.actuals(books, { party: false, source: false, drafts: false, cashFlow: false }),
    last: books.lastActual,
    through: books.lastActual,
  });
  const asOf = periodOfKey(books.calendar, AS_OF)!;
  const layOut = () =>
    planStatement({ lineSet: INCOME_LINES, columnSet: MONTHS_COLUMNS, chart: books.chart, calendar: books.calendar, asOf });
  const planned = layOut();
  if (planned.issues.length > 0) throw new Error('the statement cannot be laid out');
  const statement = () => evaluate(planned.plan, sources, {});
  const first = await time(1, statement);
  const warm = await time(50, statement);
  warmBySize.push(warm);
  rows.push({
    what: `36-column statement, ${ACCOUNTS} accounts, ${lines.toLocaleString('en-US')} lines: core, warm`,
    measured: `${milliseconds(warm)} (first ${milliseconds(first)}, slab ${milliseconds(cold)}, laying it out ${milliseconds(await time(20, layOut))})`,
    ratio: `${(warm / warmBySize[0]!).toFixed(2)} of the smallest ledger's`,
  });
  rows.push({
    what: '  the same through HTTP',
    measured: `${milliseconds(http)} (cold, books read: ${milliseconds(httpCold)})`,
    ratio: `${(http / 30).toFixed(2)} of the goal of 30 ms`,
  });

  // The plain way: every month's sums by account, from the lines, by SQL.
  const sql = `SELECT l.account_id, l.period_code, sum(l.amount) AS net FROM lines l JOIN entries e ON e.id = l.entry_id
    WHERE e.state = 'posted' AND e.kind <> 'closing' AND l.period_code BETWEEN 202501 AND 202513 GROUP BY l.account_id, l.period_code`;
  const grouped = await time(3, () => application.database.select(sql));
  rows.push({
    what: '  the same figures by SQL GROUP BY over the lines (SQLite)',
    measured: milliseconds(grouped),
    ratio: `${(grouped / warm).toFixed(0)} times the cube`,
  });
  const analytic = await (await DuckDBInstance.create(':memory:')).connect();
  await analytic.run(
    `CREATE TABLE ledger AS SELECT account, substr(CAST(date AS VARCHAR), 1, 7) AS month, coalesce(CAST(debit AS DECIMAL(18,2)), 0) - coalesce(CAST(credit AS DECIMAL(18,2)), 0) AS net FROM read_csv('${ledger}', all_varchar = true)`,
  );
  const columnar = await time(5, () =>
    analytic.runAndReadAll(
      `SELECT account, month, sum(net) FROM ledger WHERE month BETWEEN '2025-01' AND '2025-12' GROUP BY account, month`,
    ),
  );
  rows.push({
    what: '  the same by an analytic SQL engine',
    measured: milliseconds(columnar),
    ratio: `${(columnar / warm).toFixed(1)} times the cube`,
  });
  if (lines === 100_000) {
    const budget = await application.budgetCreation.create(
      1,
      newBudgetSchema.parse({ name: 'Bench', year: 2025, from: 2024, change: '3', roundTo: 100 }),
      application.actor,
    );
    const account = (await application.budgets.grid({ company: 1, budget: budget.id }, {})).rows[0]!.account;
    const edit = await time(20, () =>
      application.worksheets.edit(
        { company: 1, budget: budget.id },
        budgetEditRequestSchema.parse({ edits: [{ kind: 'month', account, month: 3, text: '+1%' }] }),
        application.actor,
      ),
    );
    rows.push({
      what: 'one budget edit, saved and the grid computed again (400 accounts x 4 departments x 12)',
      measured: milliseconds(edit),
      ratio: `${(edit / 50).toFixed(2)} of the goal of 50 ms`,
    });
  }
  await application.close();
}
rmSync(folder, { recursive: true, force: true });
const machine = `${cpus().length} cores, ${cpus()[0]?.model.trim() ?? 'unknown'}, Node ${process.version}`;
process.stdout.write(
  `${machine}\n\n| what | measured | ratio |\n| --- | --- | --- |\n${rows.map(({ what, measured, ratio }) => `| ${what.trim()} | ${measured} | ${ratio} |`).join('\n')}\n`,
);
