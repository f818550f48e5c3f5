import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { apportion, evaluate, INCOME_LINES, minor, planStatement, REVIEW_COLUMNS, periodOfKey } from '@wise-margin/core';
import type { BudgetDto, CellDto, GridDto, ImportDto } from '@wise-margin/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startTestServer, type TestServer } from '../support/server.ts';

// The values are kept in a copy beside this test, so that the tests stand by themselves.
const checks = (name: string): unknown =>
  JSON.parse(readFileSync(join(fileURLToPath(new URL('.', import.meta.url)), 'values', name), 'utf8'));
type Statement = Record<string, number>;
type Published = {
  departmentStore: {
    incomeStatement: { current: Statement; prior: Statement };
    publishedChange: Record<string, [number, number]>;
    publishedPercentOfNetSales: { current: Statement; prior: Statement };
  };
  flexibleBudget: { staticBudget: Statement; actual: Statement; publishedStaticVariances: Record<string, [number, 'F' | 'U']> };
};
const published = checks('published-examples.json') as Published;

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.close());

/** Brings a company in through the real import. */
async function bring(name: string, accounts: string, ledger: string): Promise<number> {
  const made = await server.upload({ name, currency: 'USD', startMonth: '1' }, { accounts, ledger });
  expect(made.issues).toEqual([]);
  return ((await server.send('POST', `/imports/${made.id}/post`, {})).body as ImportDto).companyId!;
}
const reader =
  (grid: GridDto) =>
  (line: string, column: string): CellDto =>
    grid.cells[grid.lines.findIndex(({ key }) => key === line)]![grid.columns.findIndex(({ key }) => key === column)]!;
const percent = (cell: CellDto) => (cell.kind === 'ratio' ? Math.round(cell.value * 1000) / 10 : cell);

// Source: Weygandt, Kimmel, Kieso, Accounting Principles, chapter on financial statement analysis: comparative
// statements of a department store, from memory (values/published-examples.json).
describe('the department store', () => {
  const ACCOUNTS = [
    ['100', 'Cash', 'Cash', ''],
    ['400', 'Sales', 'Revenue', 'Sales'],
    ['410', 'Sales returns and allowances', 'Revenue deductions', 'Returns'],
    ['500', 'Cost of goods sold', 'Cost of sales', 'Goods'],
    ['600', 'Selling expenses', 'Operating expenses', 'Selling'],
    ['610', 'Administrative expenses', 'Operating expenses', 'Administrative'],
    ['700', 'Interest and dividends', 'Other income', 'Interest and dividends'],
    ['710', 'Interest expense', 'Interest expense', 'Interest expense'],
    ['800', 'Income tax', 'Income tax', 'Tax'],
  ];
  const KEYS = [
    'sales',
    'salesReturnsAndAllowances',
    'costOfGoodsSold',
    'sellingExpenses',
    'administrativeExpenses',
    'interestAndDividends',
    'interestExpense',
    'incomeTax',
  ];
  let at: ReturnType<typeof reader>;
  beforeAll(async () => {
    const rows = ['entry,date,account,amount'];
    for (const [year, statement] of [
      ['2025', published.departmentStore.incomeStatement.prior],
      ['2026', published.departmentStore.incomeStatement.current],
    ] as const) {
      KEYS.forEach((key, index) => {
        const isCredit = key === 'sales' || key === 'interestAndDividends';
        const amount = statement[key]! * (isCredit ? -1 : 1);
        rows.push(
          `${year}-${index},${year}-06-30,${ACCOUNTS[index + 1]![0]},${amount}.00`,
          `${year}-${index},${year}-06-30,100,${-amount}.00`,
        );
      });
    }
    const company = await bring(
      'Department store',
      `account,name,class,active,group\n${ACCOUNTS.map(([number, name, of, group]) => `${number},${name},${of},yes,${group}`).join('\n')}\n`,
      `${rows.join('\n')}\n`,
    );
    at = reader(await server.statement(`/companies/${company}/statements/income?asOf=2026-12`));
  });
  const LINES: Record<string, string> = {
    sales: 'revenue_lines.sales',
    netSales: 'revenue',
    costOfGoodsSold: 'cost_of_sales',
    grossProfit: 'gross_profit',
    sellingExpenses: 'operating_lines.selling',
    administrativeExpenses: 'operating_lines.administrative',
    totalOperatingExpenses: 'operating_expenses',
    incomeFromOperations: 'operating_result',
    netIncome: 'net_income',
  };
  it.each(Object.entries(published.departmentStore.publishedChange).filter(([key]) => key in LINES))(
    'change of %s',
    (key, [amount, change]) => {
      expect(at(LINES[key]!, 'ytd.prior_difference')).toMatchObject({ kind: 'amount', value: amount * 100 });
      expect(percent(at(LINES[key]!, 'ytd.prior_percent'))).toBe(change);
    },
  );
  it.each(Object.entries(published.departmentStore.publishedPercentOfNetSales.current).filter(([key]) => key in LINES))(
    '%s in percent of net sales',
    (key, share) => expect(percent(at(LINES[key]!, 'ytd.actual_share'))).toBe(share),
  );
  it('returns are 4.7 percent of net sales, shown as a deduction', () =>
    expect(percent(at('revenue_lines.returns', 'ytd.actual_share'))).toBe(
      -published.departmentStore.publishedPercentOfNetSales.current.salesReturnsAndAllowances!,
    ));
  it('an as-of month a year earlier gives the prior percentages', async () => {
    const grid = reader(await server.statement(`/companies/1/statements/income?asOf=2025-12`));
    for (const [key, share] of Object.entries(published.departmentStore.publishedPercentOfNetSales.prior))
      expect(percent(grid(LINES[key]!, 'ytd.actual_share'))).toBe(share);
  });
});

// Source: Horngren, Datar, Rajan, Cost Accounting: A Managerial Emphasis, chapter on flexible budgets: the Webb Company
// example, from memory (values/published-examples.json).
describe('the static budget', () => {
  const ACCOUNTS = [
    ['400', 'Revenue', 'Revenue', 'Revenue'],
    ['500', 'Direct materials', 'Cost of sales', 'Materials'],
    ['510', 'Direct labor', 'Cost of sales', 'Labor'],
    ['520', 'Variable overhead', 'Cost of sales', 'Overhead'],
    ['600', 'Fixed costs', 'Operating expenses', 'Fixed'],
  ] as const;
  const KEYS = ['revenue', 'directMaterials', 'directLabor', 'variableOverhead', 'fixedCosts'];
  const { staticBudget, actual, publishedStaticVariances } = published.flexibleBudget;
  let company: number;
  let budget: BudgetDto;
  beforeAll(async () => {
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
    company = await bring(
      'Webb',
      `account,name,class,active,group\n100,Cash,Cash,yes,\n${ACCOUNTS.map((account) => `${account[0]},${account[1]},${account[2]},yes,${account[3]}`).join('\n')}\n`,
      `${rows.join('\n')}\n`,
    );
    budget = (await server.send('POST', `/companies/${company}/budgets`, { name: 'Static', year: 2026, from: 2025, change: '0' }))
      .body as BudgetDto;
    const edits = KEYS.map((key, index) => ({ kind: 'month', account: ACCOUNTS[index]![0], month: 3, text: String(staticBudget[key]) }));
    expect((await server.send('POST', `/companies/${company}/budgets/${budget.id}/edits`, { edits })).status).toBe(200);
  });
  const LINES: Record<string, string> = {
    revenue: 'revenue',
    directMaterials: 'cost_lines.materials',
    directLabor: 'cost_lines.labor',
    variableOverhead: 'cost_lines.overhead',
    contributionMargin: 'gross_profit',
    fixedCosts: 'operating_expenses',
    operatingIncome: 'operating_result',
  };
  it.each(Object.entries(publishedStaticVariances))('%s', async (key, [size, favor]) => {
    const at = reader(await server.statement(`/companies/${company}/statements/income?asOf=2026-04&budget=${budget.id}`));
    const cell = at(LINES[key]!, 'month.budget_difference');
    expect(cell.kind === 'amount' && Math.abs(cell.value)).toBe(size * 100);
    expect(cell).toMatchObject({ favor });
  });
  it('evaluate itself gives the same grid as the screen reads', async () => {
    const books = await server.application.keeper.of(company);
    const asOf = periodOfKey(books.calendar, '2026-04')!;
    const { grid } = await server.application.evaluator.evaluate(books, {
      lineSet: INCOME_LINES,
      columnSet: REVIEW_COLUMNS,
      asOf,
      budgetId: budget.id,
      filter: {},
    });
    const planned = planStatement({
      lineSet: INCOME_LINES,
      columnSet: REVIEW_COLUMNS,
      chart: books.chart,
      calendar: books.calendar,
      asOf,
    });
    expect(planned.issues).toEqual([]);
    expect(evaluate(planned.plan, grid.sources, {}).cells).toEqual(grid.cells);
    const wire = await server.statement(`/companies/${company}/statements/income?asOf=2026-04&budget=${budget.id}`);
    expect(wire.cells).toEqual(JSON.parse(JSON.stringify(grid.cells)));
  });
});

// Source: largest remainder (Hamilton) rule in exact arithmetic, computed with R 4.2.2 (values/apportion.json).
describe('apportionment', () => {
  type Case = { total: number; weights: number[]; expected: number[] };
  const { cases, handCases } = checks('apportion.json') as { cases: Case[]; handCases: Case[] };
  it.each([...cases, ...handCases])('$total by $weights', ({ total, weights, expected }) =>
    expect(apportion(minor(total), weights)).toEqual(expected),
  );
});
