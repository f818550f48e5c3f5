import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

import { type BudgetDto, type ComparisonDto } from '@wise-margin/contract';
import { evaluate, INCOME_LINES, periodOfKey, planStatement, REVIEW_COLUMNS, shownColumns } from '@wise-margin/core';
import { unpackGrid } from '@wise-margin/presentation';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { importCompany, reader } from '../support/import-company.ts';
import { startTestServer, type TestServer } from '../support/server.ts';

// Source: Horngren, Datar, Rajan, Cost Accounting: A Managerial Emphasis, chapter on flexible budgets and direct-cost
// variances: the Webb Company example, from memory (values/published-examples.json; inputs and their prices below).
type Statement = Record<string, number>;
const { staticBudget, actual, publishedStaticVariances, publishedFlexibleBudgetVariance, publishedSalesVolumeVariance } = (
  JSON.parse(readFileSync(join(fileURLToPath(new URL('.', import.meta.url)), 'values', 'published-examples.json'), 'utf8')) as {
    flexibleBudget: {
      staticBudget: Statement;
      actual: Statement;
      publishedStaticVariances: Record<string, [number, 'F' | 'U']>;
      publishedFlexibleBudgetVariance: [number, 'F' | 'U'];
      publishedSalesVolumeVariance: [number, 'F' | 'U'];
    };
  }
).flexibleBudget;
/** Materials: 22,200 square yards bought at 28 dollars, budgeted 2 a unit at 30. Labor: 9,000 hours at 22, budgeted 0.8 a unit at 20. From memory. */
const INPUTS = { directMaterials: { quantity: 22_200, price: 30 }, directLabor: { quantity: 9_000, price: 20 } };
const PUBLISHED_PARTS = {
  directMaterials: { price: [44_400, 'F'], efficiency: [66_000, 'U'] },
  directLabor: { price: [18_000, 'U'], efficiency: [20_000, 'U'] },
} as const;

const ACCOUNTS = [
  ['400', 'Revenue', 'Revenue', 'Revenue'],
  ['500', 'Direct materials', 'Cost of sales', 'Materials'],
  ['510', 'Direct labor', 'Cost of sales', 'Labor'],
  ['520', 'Variable overhead', 'Cost of sales', 'Overhead'],
  ['600', 'Fixed costs', 'Operating expenses', 'Fixed'],
] as const;
const KEYS = ['revenue', 'directMaterials', 'directLabor', 'variableOverhead', 'fixedCosts'] as const;
const LINES: Record<string, string> = {
  revenue: 'revenue',
  directMaterials: 'cost_lines.materials',
  directLabor: 'cost_lines.labor',
  variableOverhead: 'cost_lines.overhead',
  contributionMargin: 'gross_profit',
  fixedCosts: 'operating_expenses',
  operatingIncome: 'operating_income',
};
const APRIL = 3;

let server: TestServer;
let company: number;
/** The budget for 12,000 units; the same for the 10,000 that were sold; and that at actual inputs and budgeted prices. */
let fixed: number;
let flexible: number;
let inputs: number;

/** Twelve numbers of a driver that is there in April alone. */
const inApril = (number: number): number[] => Array.from({ length: 12 }, (_, month) => (month === APRIL ? number : 0));
const driverRate = (name: string, number: number, rate: number) => ({
  kind: 'driverRate',
  driver: { name, months: inApril(number) },
  rates: [{ from: 0, value: String(rate) }],
  unit: 100,
});
const set = async (budget: number, bases: readonly (readonly [account: string, basis: object])[]) => {
  const edits = bases.map(([account, basis]) => ({ kind: 'basis', account, basis }));
  const { status, body } = await server.send('POST', `/companies/${company}/budgets/${budget}/edits`, { edits });
  expect([status, (body as { refusals: unknown }).refusals]).toEqual([200, []]);
};
const perUnit = (units: number) =>
  KEYS.slice(0, 4).map(
    (key, index) => [ACCOUNTS[index]![0], driverRate('Units', units, staticBudget[key]! / staticBudget.units!)] as const,
  );
const copy = async (of: number, name: string) =>
  ((await server.send('POST', `/companies/${company}/budgets/${of}/copies`, { name })).body as BudgetDto).id;
/** The difference of one version less another, or less actuals, on a line of the statement: dollars, and whether it is favorable. */
const between = async (budget: number, beside: number | 'actual', key: string) => {
  const { grid } = (await server.get(`/companies/${company}/budgets/${budget}/comparison?with=${beside}`)) as ComparisonDto;
  const cell = reader(unpackGrid(grid))(LINES[key]!, 'year.difference');
  return cell.kind === 'amount' ? [Math.abs(cell.value) / 100, cell.favor] : cell;
};
/** A variance is what was, less what was planned; the comparison shows it the other way round. */
const turned = (favor: 'F' | 'U') => (favor === 'F' ? 'U' : 'F');

beforeAll(async () => {
  server = await startTestServer();
  const rows = ['entry,date,account,amount'];
  KEYS.forEach((key, index) => {
    for (const [year, amount] of [
      ['2025', 100],
      ['2026', actual[key]!],
    ] as const) {
      const signed = amount * (key === 'revenue' ? -1 : 1);
      rows.push(`${year}${key},${year}-04-15,${ACCOUNTS[index]![0]},${signed}.00`, `${year}${key},${year}-04-15,100,${-signed}.00`);
    }
  });
  const accounts = ACCOUNTS.map(([number, name, of, group]) => `${number},${name},${of},yes,${group}`).join('\n');
  company = await importCompany(
    server,
    'Webb',
    `account,name,class,active,group\n100,Cash,Cash,yes,\n${accounts}\n`,
    `${rows.join('\n')}\n`,
  );
  const made = await server.send('POST', `/companies/${company}/budgets`, { name: 'Static', year: 2026, from: 2025, change: '0' });
  fixed = (made.body as BudgetDto).id;
  await set(fixed, [
    ...perUnit(staticBudget.units!),
    ['600', { kind: 'fixedMonths', steps: [{ from: 0, value: staticBudget.fixedCosts! * 100 }], months: [APRIL] }],
  ]);
  flexible = await copy(fixed, 'Flexible');
  await set(flexible, perUnit(actual.units!));
  inputs = await copy(flexible, 'Actual inputs at budgeted prices');
  await set(inputs, [
    ['500', driverRate('Square yards', INPUTS.directMaterials.quantity, INPUTS.directMaterials.price)],
    ['510', driverRate('Hours', INPUTS.directLabor.quantity, INPUTS.directLabor.price)],
  ]);
});
afterAll(() => server.close());

describe('the static budget, driver by rate', () => {
  it.each(Object.entries(publishedStaticVariances))('%s', async (key, [size, favor]) => {
    const at = reader(await server.statement(`/companies/${company}/statements/income?asOf=2026-04&budget=${fixed}`));
    const cell = at(LINES[key]!, 'month.budget_difference');
    expect(cell.kind === 'amount' && Math.abs(cell.value)).toBe(size * 100);
    expect(cell).toMatchObject({ favor });
  });
  it('evaluate itself gives the same grid as the screen reads', async () => {
    const books = await server.application.booksCache.of(company);
    const asOf = periodOfKey(books.calendar, '2026-04')!;
    const sets = { lineSet: INCOME_LINES, columnSet: REVIEW_COLUMNS, asOf };
    const { grid } = await server.application.evaluator.evaluate(books, { ...sets, budgetId: fixed, filter: {} });
    const planned = planStatement({ ...sets, chart: books.chart, calendar: books.calendar, posted: grid.plan.posted });
    expect(planned.issues).toEqual([]);
    expect(evaluate(planned.plan, grid.sources, {}).cells).toEqual(grid.cells);
    const wire = await server.statement(`/companies/${company}/statements/income?asOf=2026-04&shares=yes&budget=${fixed}`);
    // the wire leaves hidden columns out
    const shown = shownColumns(grid).map(({ index }) => index);
    expect(wire.cells).toEqual(JSON.parse(JSON.stringify(grid.cells.map((row) => shown.map((index) => row[index])))));
  });
});

describe('the flexible budget, the same drivers at the units that were sold', () => {
  it('parts the static variance of operating income into flexible-budget and sales-volume variance', async () => {
    const [flex, flexFavor] = publishedFlexibleBudgetVariance;
    const [volume, volumeFavor] = publishedSalesVolumeVariance;
    expect(await between(flexible, 'actual', 'operatingIncome')).toEqual([flex, turned(flexFavor)]);
    expect(await between(flexible, fixed, 'operatingIncome')).toEqual([volume, volumeFavor]);
  });
  it.each(Object.entries(PUBLISHED_PARTS))('parts the variance of %s into price and efficiency', async (key, { price, efficiency }) => {
    expect(await between(inputs, 'actual', key)).toEqual([price[0], turned(price[1])]);
    expect(await between(inputs, flexible, key)).toEqual([efficiency[0], efficiency[1]]);
  });
});
