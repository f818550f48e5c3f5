import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { gannetRockFiles, ternIslandFiles } from '@wise-margin/demo';
import { budgetEditRequestSchema, newBudgetSchema, newCompanySchema, type NewBudgetInput } from '@wise-margin/contract';
import type { Application } from '@wise-margin/server';
import type { Answer } from '../output.ts';
import { DRAFT_EDITS, PLAN_EDITS, type BudgetEdits } from './demo-edits.ts';
import { excludedOf } from './budget.ts';
import { RefusedError } from '../usage.ts';

const TERN_BUDGETS: readonly (NewBudgetInput & { readonly edits: readonly BudgetEdits[]; readonly approve: boolean })[] = [
  {
    year: 2026,
    from: 2025,
    name: 'Annual plan',
    change: '4',
    changeByClass: { revenue: '7', revenueDeductions: '7', costOfSales: '6', depreciation: '0', interestExpense: '0' },
    roundTo: 10_000,
    edits: [],
    approve: true,
  },
  {
    year: 2027,
    from: 2026,
    name: 'Annual plan',
    change: '3',
    changeByClass: { revenue: '6', revenueDeductions: '6', costOfSales: '5', depreciation: '2', interestExpense: '-4' },
    roundTo: 10_000,
    edits: PLAN_EDITS,
    approve: true,
  },
  {
    year: 2028,
    from: 2026,
    name: 'Working draft',
    change: '6',
    changeByClass: { revenue: '11', revenueDeductions: '11', costOfSales: '10' },
    roundTo: 10_000,
    edits: DRAFT_EDITS,
    approve: false,
  },
];
const GANNET_BUDGET: NewBudgetInput = { year: 2026, from: 2025, name: 'House budget', change: '3', roundTo: 10_000 };

/** Makes the demo companies through the same import and budget code the screens use. @throws RefusedError when they are there already */
export async function makeDemo(application: Application, directory: string): Promise<Answer> {
  const held = await application.database.models.companies.count();
  if (held > 0) throw new RefusedError(`The folder ${directory} holds companies already. Choose another with --data, or delete it.`);
  const tern = await bring(application, directory, {
    folder: 'tern-island',
    company: { name: 'Tern Island Kayak Works', currency: 'USD', startMonth: 4, hasAdjustmentPeriod: true },
    files: ternIslandFiles(),
  });
  const gannet = await bring(application, directory, {
    folder: 'gannet-rock',
    company: { name: 'Gannet Rock Sea Salt', currency: 'USD', startMonth: 1, hasAdjustmentPeriod: false },
    files: gannetRockFiles(),
  });
  for (const { approve, edits, ...budget } of TERN_BUDGETS) await addBudget(application, tern, { budget, edits, approve });
  await addBudget(application, gannet, { budget: GANNET_BUDGET, edits: [], approve: true });
  return {
    title: 'The demo companies are made',
    headings: ['company', 'number'],
    rows: [
      ['Tern Island Kayak Works', String(tern)],
      ['Gannet Rock Sea Salt', String(gannet)],
    ],
    figures: new Set([1]),
    json: { ternIsland: tern, gannetRock: gannet },
  };
}

async function bring(
  application: Application,
  directory: string,
  { folder, company, files }: { folder: string; company: object; files: Readonly<Record<string, string>> },
): Promise<number> {
  const at = join(directory, 'files', folder);
  mkdirSync(at, { recursive: true });
  for (const [name, text] of Object.entries(files)) writeFileSync(join(at, `${name}.csv`), text);
  const chosen = (name: string) => ({ path: join(at, `${name}.csv`), name: `${folder}-${name}.csv`, move: false });
  const { imports, actor } = application;
  const id = await imports.submit({
    target: { newCompany: newCompanySchema.parse(company) },
    accounts: chosen('accounts'),
    ledger: chosen('ledger'),
    actor,
  });
  await imports.settled(id);
  const checked = await imports.describe(id);
  if (checked.state !== 'ready')
    throw new RefusedError(
      `The demo's own files were refused: ${
        checked.failure ??
        checked.issues
          .map(({ row, reason }) => `row ${row}: ${reason}`)
          .slice(0, 5)
          .join('; ')
      }`,
    );
  const made = await imports.post(id, actor);
  if ('statistics' in files) await importStatistics(application, made, join(at, 'statistics.csv'));
  return made;
}

async function importStatistics(application: Application, companyId: number, path: string): Promise<void> {
  const { statistics, actor } = application;
  const { preview } = await statistics.preview(companyId, path);
  await statistics.importFile(companyId, { path, fingerprint: preview.fingerprint, actor });
}

async function addBudget(
  application: Application,
  companyId: number,
  { budget, edits, approve }: { readonly budget: NewBudgetInput; readonly edits: readonly BudgetEdits[]; readonly approve: boolean },
): Promise<void> {
  const { budgets, desks, actor } = application;
  // the storm, its insurance recovery and disposals do not happen again
  const { candidates } = await budgets.proposal(companyId, { from: Number(budget.from), projected: false });
  const { id } = await budgets.create(companyId, newBudgetSchema.parse({ ...budget, exclude: excludedOf(candidates) }), actor);
  for (const batch of edits) await desks.edit(companyId, id, budgetEditRequestSchema.parse(batch), actor);
  if (approve) await budgets.setState(companyId, id, { state: 'approved' }, actor);
}
