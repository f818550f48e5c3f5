import { monthCalendar, type PeriodIndex, slotCount, slotOfYear } from '../calendar/fiscal-calendar.ts';
import { type Account, isIncomeAccount } from '../chart/account.ts';
import { account as smallAccount } from '../chart/small-account.ts';
import { BalanceCube, type BalanceFact } from '../ledger/balance-cube.ts';
import { type DimensionCombination, passes } from '../ledger/dimension.ts';
import { minor } from '../money/minor.ts';
import type { Basis } from './basis.ts';
import { type BudgetBooks, type BudgetHead, type PlacedLine, sliceKey } from './budget-books.ts';

// small books with two years of history, the second posted through its sixth month, for the tests of this folder
const account = (number: string, of: Account['class'], group: string | null = null): Account => smallAccount(number, of, { group });
export const chart = {
  accounts: [
    account('1000', 'cash'),
    account('4000', 'revenue'),
    account('4900', 'revenueDeductions'),
    account('5000', 'costOfSales'),
    account('6000', 'operatingExpenses', 'Rent'),
    account('6100', 'operatingExpenses', 'Repairs'),
    account('6800', 'depreciation'),
  ],
};
export const calendar = monthCalendar({ startMonth: 4, firstYear: 2025, lastYear: 2027, hasAdjustmentPeriod: true });
export const positionOf = (number: string): number => chart.accounts.findIndex((each) => each.number === number);
export const NORTH: DimensionCombination = { department: 'North' };
export const SOUTH: DimensionCombination = { department: 'South' };
export const head: BudgetHead = { year: 2027, fromYear: 2026, dimensions: ['department'] };

export const fact = (
  number: string,
  year: number,
  month: number,
  amount: number,
  combination: DimensionCombination = NORTH,
): BalanceFact => ({
  account: positionOf(number),
  slot: slotOfYear(calendar, year, month)!,
  combination,
  layer: 'ordinary',
  amount: minor(amount),
});
export const cubeOf = (facts: readonly BalanceFact[]): BalanceCube => {
  const cube = new BalanceCube({ isIncome: chart.accounts.map(isIncomeAccount), slots: slotCount(calendar) });
  cube.post(facts);
  return cube;
};

/** Books of some facts, posted from the first month of FY2025 through the sixth of FY2026. */
export function booksOf(options: {
  readonly facts?: readonly BalanceFact[];
  readonly nonrecurring?: readonly BalanceFact[];
  readonly months?: readonly string[];
  readonly approved?: readonly BalanceFact[];
  readonly guests?: readonly number[];
  /** the last posted month, counted from the first of FY2025 */
  readonly through?: number;
}): BudgetBooks {
  const { facts = [], nonrecurring = [], months = [], approved, guests = [], through = 17 } = options;
  return {
    chart,
    calendar,
    exponent: 2,
    cube: cubeOf(facts),
    firstPosted: 0 as PeriodIndex,
    lastActual: through as PeriodIndex,
    nonrecurring: { entries: cubeOf(nonrecurring), months: new Set(months) },
    approved: new Map(approved ? [[2026, { cube: cubeOf(approved), dimensions: ['department'] }]] : []),
    statistics: {
      value: (series, filter, period) => (series === 'guests' && passes(filter, NORTH) ? (guests[period - 24] ?? null) : null),
    },
  };
}

export const line = (id: number, number: string, basis: Basis, amount = 0, dimensions: DimensionCombination = NORTH): PlacedLine => ({
  id,
  position: positionOf(number),
  account: number,
  dimensions,
  slice: sliceKey(dimensions),
  basis,
  months: Array.from({ length: 12 }, () => ({ amount: minor(amount), held: false })),
});
