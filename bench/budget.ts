// npm run bench:budget: what a budget at work costs: making it for all lines, an edit until its grid can be painted, a pasted block, saving.
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import { budgetEditRequestSchema, newBudgetSchema, newCompanySchema, type WorksheetDto } from '@wise-margin/contract';
import type { WorksheetEdit } from '@wise-margin/core';
import { unpackGrid } from '@wise-margin/presentation';
import { openApplication } from '@wise-margin/server';

import { LocalWorksheet } from '../apps/web/src/budgets/worksheet/local-worksheet.ts';
import { largeAccountsCsv, writeLargeLedger } from '../tests/support/large-ledger.ts';

const folder = mkdtempSync(join(tmpdir(), 'wise-margin-bench-'));
const say = (what: string, milliseconds: number): void => void process.stdout.write(`${what}: ${milliseconds.toFixed(0)} ms\n`);
/** The middle of several runs, in milliseconds. */
async function middle(runs: number, work: (run: number) => unknown): Promise<number> {
  const taken: number[] = [];
  for (let run = 0; run < runs; run += 1) {
    const start = performance.now();
    await work(run);
    taken.push(performance.now() - start);
  }
  return taken.sort((a, b) => a - b)[Math.floor(runs / 2)]!;
}

const ledger = join(folder, 'ledger.csv');
const accounts = join(folder, 'accounts.csv');
writeFileSync(accounts, largeAccountsCsv(625));
writeLargeLedger(ledger, { lines: 100_000, accounts: 625, years: 5, departments: 4 });
const application = await openApplication({
  directory: join(folder, 'data'),
  recover: true,
  actor: { name: 'Bench', now: () => new Date() },
});
const file = (path: string, name: string) => ({ path, name, move: false });
const { imports, budgetCreation, worksheets, actor } = application;
const id = await imports.submit({
  target: { newCompany: newCompanySchema.parse({ name: 'Bench', currency: 'USD', startMonth: 1 }) },
  accounts: file(accounts, 'accounts.csv'),
  ledger: file(ledger, 'ledger.csv'),
  actor,
});
await imports.settled(id);
const company = await imports.post(id, actor);
const made: number[] = [];
let budgetId = 0;
const build = await middle(5, async (run) => {
  const budget = await budgetCreation.create(
    company,
    newBudgetSchema.parse({ name: `Bench ${run}`, year: 2026, from: 2025, change: '3', roundTo: 100 }),
    actor,
  );
  made.push(budget.lineCount);
  budgetId = budget.id;
});
say(`a budget of ${made[0]} lines x 12 made from history and saved`, build);
const LOOK = { filter: {}, account: null, lineSet: null } as const;
const dto: WorksheetDto = await worksheets.worksheet({ company, budget: budgetId }, 'bench');
say('its worksheet opened in the browser’s part', await middle(5, () => new LocalWorksheet(dto).show(LOOK)));
const worksheet = new LocalWorksheet(dto);
const numbers = unpackGrid(worksheet.show(LOOK).grid!).lines.flatMap(({ account }) => account ?? []);
say(
  `one figure typed in ${numbers.length} lines x 12, until its grid is computed and packed`,
  await middle(30, (run) => {
    worksheet.edit(run, [{ kind: 'month', account: numbers[run]!, month: 3, text: '+1%' }], {});
    worksheet.show({ ...LOOK, account: numbers[run]! });
  }),
);
const block: WorksheetEdit[] = numbers
  .slice(0, 500)
  .flatMap((account, row) =>
    Array.from({ length: 12 }, (_, month): WorksheetEdit => ({ kind: 'month', account, month, text: String(1000 + row + month) })),
  );
say(
  `a block of ${block.length} figures pasted, until its grid is computed and packed`,
  await middle(3, (run) => {
    const fresh = new LocalWorksheet(dto);
    const start = performance.now();
    fresh.edit(run, block, {});
    fresh.show(LOOK);
    say('  of which the edits and the grid', performance.now() - start);
  }),
);
say(
  'the block saved by the server',
  await middle(1, () =>
    worksheets.edit({ company, budget: budgetId }, budgetEditRequestSchema.parse({ edits: block, session: 'bench' }), actor),
  ),
);
say(
  'one figure saved by the server',
  await middle(20, () =>
    worksheets.edit(
      { company, budget: budgetId },
      budgetEditRequestSchema.parse({ edits: [{ kind: 'month', account: numbers[0]!, month: 3, text: '+1%' }] }),
      actor,
    ),
  ),
);
await application.close();
rmSync(folder, { recursive: true, force: true });
