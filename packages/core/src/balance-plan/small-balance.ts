import type { BudgetBooks } from '../budgets/budget-books.ts';
import { monthCalendar, type PeriodIndex, slotCount, slotOfYear } from '../calendar/fiscal-calendar.ts';
import { isIncomeAccount } from '../chart/account.ts';
import { account } from '../chart/small-account.ts';
import { BalanceCube, type BalanceFact } from '../ledger/balance-cube.ts';
import { minor } from '../money/minor.ts';
import type { BalanceRule } from './balance-rule.ts';

// small books with a balance sheet, for the tests of this folder: FY2025 and FY2026 begin in April
export const chart = {
  accounts: [
    account('1000', 'cash'),
    account('1010', 'cash'),
    account('1100', 'receivables'),
    account('1300', 'inventory'),
    account('1400', 'otherCurrentAssets'),
    account('1500', 'fixedAssets'),
    account('1590', 'accumulatedDepreciation'),
    account('2000', 'payables'),
    account('2130', 'otherCurrentLiabilities'),
    account('2300', 'shortTermDebt'),
    account('2500', 'longTermDebt'),
    account('3000', 'capital'),
    account('3200', 'retainedEarnings'),
    account('3300', 'dividends'),
    account('4000', 'revenue'),
    account('5000', 'costOfSales'),
    account('6000', 'operatingExpenses'),
    account('6800', 'depreciation'),
    account('7510', 'interestExpense'),
    account('8010', 'incomeTax'),
  ],
};
export const calendar = monthCalendar({ startMonth: 4, firstYear: 2025, lastYear: 2028, hasAdjustmentPeriod: true });
export const positionOf = (number: string): number => chart.accounts.findIndex((each) => each.number === number);

/** An entry of two lines: debit `to`, credit `from`, in a month 1 to 12. */
export type Entry = readonly [to: string, from: string, year: number, month: number, amount: number];
export const factsOf = (entries: readonly Entry[]): BalanceFact[] =>
  entries.flatMap(([to, from, year, month, amount]) =>
    [[to, amount] as const, [from, -amount] as const].map(([number, value]) => ({
      account: positionOf(number),
      slot: slotOfYear(calendar, year, month)!,
      combination: {},
      layer: 'ordinary' as const,
      amount: minor(value),
    })),
  );
export const cubeOf = (facts: readonly BalanceFact[]): BalanceCube => {
  const cube = new BalanceCube({ isIncome: chart.accounts.map(isIncomeAccount), slots: slotCount(calendar) });
  cube.post(facts);
  return cube;
};

/** A budget of income alone: a debit-positive amount for an account in a month 1 to 12 of a year. */
export type Planned = readonly [account: string, year: number, month: number, amount: number];
export const incomeCube = (planned: readonly Planned[]): BalanceCube =>
  cubeOf(
    planned.map(([number, year, month, amount]) => ({
      account: positionOf(number),
      slot: slotOfYear(calendar, year, month)!,
      combination: {},
      layer: 'ordinary',
      amount: minor(amount),
    })),
  );

/** Books posted through a month (a period index), or to none. */
export function booksOf(options: {
  readonly entries?: readonly Entry[];
  readonly through?: number | null;
  readonly approved?: ReadonlyMap<number, BalanceCube>;
}): BudgetBooks {
  const { entries = [], through = 23, approved = new Map() } = options;
  return {
    chart,
    calendar,
    exponent: 2,
    cube: cubeOf(factsOf(entries)),
    firstPosted: through === null ? null : (0 as PeriodIndex),
    lastActual: through as PeriodIndex | null,
    nonrecurring: { entries: cubeOf([]), months: new Set() },
    approved: new Map([...approved].map(([year, cube]) => [year, { cube, dimensions: [] }])),
    statistics: { value: () => null },
  };
}

export const rulesOf = (rules: Readonly<Record<string, BalanceRule>>): ReadonlyMap<string, BalanceRule> => new Map(Object.entries(rules));
