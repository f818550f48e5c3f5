import {
  type BalancePlanDto,
  balancePlanSchema,
  type BudgetDto,
  type BudgetHistoryDto,
  type DrillDownDto,
  type GridDto,
  type PackedBalancePlan,
  type Problem,
  type ViewDto,
} from '@wise-margin/contract';
import { BALANCE_LINES, type ColumnSet } from '@wise-margin/core';
import { unpackGrid } from '@wise-margin/presentation';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import { type TestServer } from './support/server.ts';

let server: TestServer;
let company: string;
let at: string;
beforeAll(async () => {
  server = await demoServer();
  company = '/companies/1';
  const made = await server.send('POST', `${company}/budgets`, { name: 'Next year', year: 2028, from: 2027, projected: true, change: '2' });
  expect(made.status).toBe(201);
  at = `${company}/budgets/${(made.body as BudgetDto).id}`;
});
afterAll(() => server.close());

const unpacked = (packed: PackedBalancePlan): BalancePlanDto => ({
  ...packed,
  cashFlow: unpackGrid(packed.cashFlow),
  balanceSheet: unpackGrid(packed.balanceSheet),
});
const plan = async (budget = at): Promise<BalancePlanDto> =>
  unpacked(balancePlanSchema.parse(await server.get(`${budget}/balance-plan?session=here`)) as PackedBalancePlan);
const set = async (account: string, rule: object | null, more: object = {}) => {
  const { status, body } = await server.send('PUT', `${at}/balance-plan/rule`, { account, rule, session: 'here', ...more });
  return { status, body, detail: (body as Problem).detail ?? '' };
};
/** The amounts of a line over the columns; NaN where there is none. */
const row = (grid: GridDto, key: string): number[] =>
  grid.cells[grid.lines.findIndex((line) => line.key === key || line.account === key)]!.map((cell) =>
    cell.kind === 'amount' ? cell.value : NaN,
  );
const zeros = (count: number) => Array.from({ length: count }, () => 0);

describe('a budget carried into cash and balance sheet', () => {
  it('balances at every month end, and its cash flow ends on the cash of its balance sheet', async () => {
    const { cashFlow, balanceSheet, months, openingCash, lowest, opensFrom } = await plan();
    expect(opensFrom).toBe('2026-10');
    expect(row(balanceSheet, 'out_of_balance')).toEqual(zeros(13));
    expect(row(cashFlow, 'unexplained')).toEqual(zeros(13));
    const cash = row(balanceSheet, 'current_asset_lines.cash');
    expect(cash).toEqual([openingCash, ...months.map((month) => month.cash)]);
    expect(row(cashFlow, 'cash_after')).toEqual([...months.map((month) => month.cash), months.at(-1)!.cash]);
    expect(lowest < 0 ? openingCash : months[lowest]!.cash).toBe(Math.min(openingCash, ...months.map((month) => month.cash)));
    // the result on the balance sheet is the budget's net income to date
    const income = row(cashFlow, 'net_income');
    let sum = 0;
    expect(row(balanceSheet, 'result_of_the_year')).toEqual([0, ...income.slice(0, 12).map((amount) => (sum += amount))]);
  });

  it('takes its assumptions from history: days, loan schedule, months of tax', async () => {
    const { accounts, notices, interest } = await plan();
    const words = new Map(accounts.map((account) => [account.account, account.words]));
    expect(words.get('1100')).toBe('Same days of revenue as a year earlier');
    expect(words.get('2130')).toBe('Budgeted income tax accrues, paid in Jun, Sep, Dec, Mar');
    expect(words.get('2500')).toMatch(/^Repaid in \d+ months, level payments, at 5\.2% a year$/);
    const loan = accounts.find(({ account }) => account === '2500')!.loan!;
    expect(loan).toHaveLength(12);
    for (const { payment, interest: part, principal } of loan) expect(payment).toBe(part + principal);
    const scheduled = loan.reduce((sum, month) => sum + month.interest, 0);
    expect(notices.join(' ')).toContain(
      `The loan schedules come to ${(scheduled / 100).toLocaleString('en-US', { minimumFractionDigits: 2 })} in interest`,
    );
    expect(interest!.account).toBe('7510');
  });

  it('follows an edit of the income budget at once', async () => {
    const before = await plan();
    await server.send('POST', `${at}/edits`, { edits: [{ kind: 'month', account: '6110', month: 3, text: '+50%' }], session: 'here' });
    const after = await plan();
    const changes = after.months.map(({ cash }, month) => cash - before.months[month]!.cash);
    const earned = row(after.cashFlow, 'net_income').map((amount, month) => amount - row(before.cashFlow, 'net_income')[month]!);
    expect(changes.slice(0, 3)).toEqual([0, 0, 0]);
    expect(earned[3]).toBeLessThan(0);
    // a part of it is not paid by the end of its month
    expect(changes[3]).toBeLessThan(0);
    expect(changes[3]).toBeGreaterThanOrEqual(earned[3]!);
    expect(row(after.balanceSheet, 'out_of_balance')).toEqual(zeros(13));
  });

  it('takes a rule, records it, takes it back and makes it again', async () => {
    const before = await plan();
    const rule = { kind: 'purchases', items: [{ name: 'Ten touring kayaks', month: 1, amount: 2_400_000 }] };
    const made = await set('1520', rule, { key: 'one' });
    expect(made.status).toBe(200);
    // sent again after a lost answer, it counts once
    expect((await set('1520', rule, { key: 'one' })).status).toBe(200);
    const after = await plan();
    expect(after.months.map(({ cash }, month) => cash - before.months[month]!.cash)).toEqual([
      0,
      ...Array.from({ length: 11 }, () => -2_400_000),
    ]);
    expect(after.accounts.find(({ account }) => account === '1520')).toMatchObject({
      isSet: true,
      words: 'Ten touring kayaks for 24,000 in May',
    });
    const [latest] = (await server.get<BudgetHistoryDto>(`${at}/history`)).items;
    expect(latest!.words).toBe('Balance of 1520: Ten touring kayaks for 24,000 in May (was: No purchases)');
    expect(after.steps.undo).toBe(latest!.words);
    expect((await server.send('POST', `${at}/undo`, { session: 'here' })).status).toBe(200);
    expect((await plan()).months).toEqual(before.months);
    expect((await server.send('POST', `${at}/redo`, { session: 'here' })).status).toBe(200);
    expect((await plan()).months).toEqual(after.months);
    expect((await set('1520', null)).status).toBe(200);
    expect((await plan()).accounts.find(({ account }) => account === '1520')).toMatchObject({ isSet: false, words: 'No purchases' });
  });

  it('asks when another place gave the same account a rule meanwhile', async () => {
    const { version } = await plan();
    await set('1800', { kind: 'levelOfLastYear', change: '2' }, { session: 'elsewhere' });
    const asked = await set('1800', { kind: 'stays' }, { base: version });
    expect(asked.status).toBe(409);
    expect(asked.detail).toContain('since you opened it: Balance of 1800: Same balance as a year earlier, plus 2%');
    // another account is nobody's business, and what was seen can be written over
    expect((await set('1410', { kind: 'stays' }, { base: version })).status).toBe(200);
    expect((await set('1800', { kind: 'stays' }, { base: (await plan()).version })).status).toBe(200);
    await set('1800', null);
    await set('1410', null);
  });

  it('goes with a copy', async () => {
    await set('1100', { kind: 'daysOf', of: 'revenue', days: Array.from({ length: 12 }, () => '30') });
    const copy = await server.send('POST', `${at}/copies`, { name: 'Copied' });
    const copied = await plan(`${company}/budgets/${(copy.body as BudgetDto).id}`);
    expect(copied.months).toEqual((await plan()).months);
    expect(copied.accounts.find(({ account }) => account === '1100')).toMatchObject({ isSet: true, words: '30 days of revenue' });
    await set('1100', null);
  });

  it.each([
    ['9999', { kind: 'stays' }, 'The chart has no account 9999.'],
    ['4010', { kind: 'stays' }, 'Account 4010 is not a balance-sheet account. Budget it by month.'],
    ['1100', { kind: 'tax', paidIn: [] }, 'Account 1100 cannot have “Income taxes payable”.'],
    ['2110', { kind: 'tax', paidIn: [] }, 'Account 2130 has “Income taxes payable” already'],
    ['1010', { kind: 'stays' }, 'Account 1010 is the balancing cash account.'],
    ['2500', { kind: 'loan', form: 'level', ratePercent: '5', payments: 0 }, '1 to 1,200 payments'],
    ['1100', { kind: 'daysOf', of: 'revenue', days: ['many', ...Array.from({ length: 11 }, () => '30')] }, 'Enter days such as 45 or 32.5'],
    ['1520', { kind: 'purchases', items: [{ name: '', month: 0, amount: 5 }] }, 'Enter a description'],
  ])('refuses a rule that cannot be: %s %o', async (account, rule, words) => {
    const before = await plan();
    const { status, body } = await set(account, rule);
    expect([400, 422]).toContain(status);
    expect(JSON.stringify(body)).toContain(words.replaceAll('"', '\\"'));
    expect((await plan()).version).toBe(before.version);
  });

  it('stands in the budget columns of a balance sheet, for the company as a whole', async () => {
    const column = (key: string, scenario: string) => ({
      kind: 'amount' as const,
      key,
      heading: key,
      scenario: scenario as 'actual',
      span: { kind: 'month' as const },
      measure: 'closing' as const,
    });
    const columnSet: ColumnSet = {
      key: 'against_plan',
      name: 'Against plan',
      blocks: [
        {
          key: 'now',
          heading: '{span}',
          span: { kind: 'month' },
          columns: [
            column('actual', 'actual'),
            column('plan', 'budget'),
            { kind: 'difference', key: 'difference', heading: 'Difference', compared: 'actual', base: 'plan' },
          ],
        },
      ],
    };
    const preview = async (more: object) => {
      const { status, body } = await server.send('POST', `${company}/statement-preview`, { lineSet: BALANCE_LINES, columnSet, ...more });
      expect(status).toBe(200);
      return unpackGrid((body as { grid: PackedBalancePlan['cashFlow'] }).grid);
    };
    // the approved budget of FY2027 opens from the ledger's March 2026
    const grid = await preview({ asOf: '2026-10' });
    const [, budgeted, difference] = row(grid, 'total_assets');
    expect(budgeted).toBeGreaterThan(0);
    expect(row(grid, 'total_assets')[0]! - budgeted!).toBe(difference);
    expect(row(grid, 'out_of_balance')).toEqual([0, 0, 0]);
    const approved = (await server.get<BudgetDto[]>(`${company}/budgets`)).find(
      ({ state, year }) => state === 'approved' && year === 2027,
    )!;
    const { balanceSheet } = await plan(`${company}/budgets/${approved.id}`);
    expect(row(balanceSheet, 'total_assets')[7]).toBe(budgeted);
    // its drill-down ends on the rule the balance follows, and the listed accounts add up to it
    const view = (
      await server.send('POST', `${company}/views`, { name: 'Against plan', folder: 'Mine', lineSet: BALANCE_LINES, columnSet })
    ).body as ViewDto;
    const drillDown = await server.get<DrillDownDto>(
      `${company}/statements/${view.key}/drill-down?asOf=2026-10&line=long_term_liability_lines.boathouse_loan&column=now.plan`,
    );
    expect(drillDown.cell).toEqual({ kind: 'amount', value: drillDown.accountsSum });
    expect(drillDown.accounts).toMatchObject([{ number: '2500', budgetId: approved.id, isBalanceSheet: true, entries: null }]);
    expect(drillDown.accounts[0]!.basis[0]).toMatch(/^Repaid in \d+ months, level payments, at 5\.2% a year$/);
    // balances are planned for the company as a whole
    const tours = await preview({ asOf: '2026-10', choices: { filter: { department: ['Tours'] } } });
    expect(tours.cells[tours.lines.findIndex(({ key }) => key === 'total_assets')]![1]).toEqual({
      kind: 'blank',
      reason: 'noBalanceBudget',
    });
  });
});
