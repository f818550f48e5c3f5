import {
  asNonrecurringItems,
  type BudgetDto,
  type BudgetGridDto,
  type BudgetProposalDto,
  type CompanyDto,
  type NewBudgetPreviewDto,
  type NonrecurringItemDto,
  type Problem,
} from '@wise-margin/contract';
import { ACCOUNT_CLASSES, type AccountClass } from '@wise-margin/core';
import { afterAll, beforeAll, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import { type TestServer } from './support/server.ts';

// What a new budget will come to is exactly what it comes to once it is created.

let server: TestServer;
const company = '/companies/1';
beforeAll(async () => {
  server = await demoServer();
});
afterAll(() => server.close());
const preview = async (request: object) => {
  const { status, body } = await server.send('POST', `${company}/budgets/preview`, request);
  expect([status, status === 200 ? '' : (body as Problem).detail]).toEqual([200, '']);
  return body as NewBudgetPreviewDto;
};
/** Totals of a created budget by account class, in the shown sign of the class. */
async function createdByClass(request: object): Promise<Map<AccountClass, number>> {
  const made = (await server.send('POST', `${company}/budgets`, request)).body as BudgetDto;
  const { rows } = await server.get<BudgetGridDto>(`${company}/budgets/${made.id}`);
  const { accounts } = await server.get<{ accounts: { number: string; class: AccountClass }[] }>(`${company}/accounts?year=2027`);
  const classOf = new Map(accounts.map((account) => [account.number, account.class]));
  const totals = new Map<AccountClass, number>();
  for (const { account, total, sign } of rows) {
    const of = classOf.get(account)!;
    const natural = ACCOUNT_CLASSES[of].natural === 'debit' ? 1 : -1;
    totals.set(of, (totals.get(of) ?? 0) + total * sign * natural);
  }
  return totals;
}

it.each([
  ['a whole year', { year: 2027, from: 2026, change: '3' }],
  [
    'a year under way, its months to come from the approved budget',
    { year: 2028, from: 2027, change: '-2.5', projected: true, roundTo: 10_000 },
  ],
  ['posted months, annualized', { year: 2028, from: 2027, basisByClass: { revenue: 'annualized', operatingExpenses: 'annualized' } }],
  [
    'the method each account asks for',
    { year: 2028, from: 2027, projected: true, basisByClass: { revenue: 'ownHistory', costOfSales: 'averageShape' } },
  ],
])('%s', async (name, request) => {
  const { classes, netIncome, lines } = await preview(request);
  const created = await createdByClass({ ...request, name });
  expect(lines).toBeGreaterThan(50);
  expect(Object.fromEntries(classes.filter(({ budget }) => budget !== 0).map((each) => [each.class, each.budget]))).toEqual(
    Object.fromEntries([...created].filter(([, total]) => total !== 0)),
  );
  expect(netIncome.change).toMatchObject({ kind: 'amount', value: netIncome.budget - netIncome.base });
});

it('excludes items without marking them, and opens no fiscal year', async () => {
  const { candidates } = await server.get<BudgetProposalDto>(`${company}/budgets/proposal?from=2026`);
  const exclude = asNonrecurringItems(candidates.filter(({ isProposed }) => isProposed));
  const request = { year: 2027, from: 2026, change: '0' };
  const [all, without] = [await preview(request), await preview({ ...request, exclude })];
  const effect = candidates.filter(({ isProposed }) => isProposed).reduce((sum, { netIncome }) => sum + netIncome, 0);
  expect(without.netIncome.base).toBe(all.netIncome.base);
  expect(without.netIncome.excluded).not.toBe(0);
  expect(without.netIncome.budget - all.netIncome.budget).toBe(effect);
  expect(all.netIncome.budget - without.netIncome.budget).toBe(without.netIncome.excluded);
  expect(await server.get<NonrecurringItemDto[]>(`${company}/nonrecurring-items`)).toEqual([]);
});

it('says which months of the base are actual', async () => {
  const words = async (request: object) => (await preview(request)).baseWords;
  expect(await words({ year: 2027, from: 2026 })).toBe('FY2026 actual');
  expect(await words({ year: 2028, from: 2027, projected: true })).toBe('FY2027 actual through Oct 2026, then approved budget');
  expect(await words({ year: 2028, from: 2027 })).toBe('FY2027 actual, 7 of 12 months');
});

it('refuses what creating it would refuse', async () => {
  const { years } = await server.get<CompanyDto>(company);
  const refusal = async (request: object) => ((await server.send('POST', `${company}/budgets/preview`, request)).body as Problem).detail;
  expect(await refusal({ year: 2028, from: 2019 })).toContain('no actuals in FY2019');
  expect(await refusal({ year: 2035, from: 2027 })).toContain('Fiscal years follow one another');
  expect(await refusal({ year: 2028, from: 2027, dimensions: ['region'] })).toContain('no dimension region');
  const item = { account: '9999', period: '2026-05', reason: 'Storm' };
  expect(await refusal({ year: 2028, from: 2027, exclude: [item] })).toContain('There is no account 9999');
  expect(await refusal({ year: 2028, from: 2027, exclude: [{ ...item, account: '4010', entry: 1 }] })).toContain(
    'has no line in account 4010',
  );
  expect((await server.get<CompanyDto>(company)).years).toEqual(years);
});
