import type { BudgetBooks } from '../budgets/budget-books.ts';
import { periodAt, type PeriodIndex, PERIODS_PER_YEAR } from '../calendar/fiscal-calendar.ts';
import { incomePositions } from '../chart/account.ts';
import type { BalanceCube } from '../ledger/balance-cube.ts';
import { NO_FILTER } from '../ledger/dimension.ts';
import { incomeIn, type MonthEndBalances } from './month-end-balances.ts';

/** The income budget of a year. */
export type YearIncome = { readonly year: number; readonly income: BalanceCube };

/**
 * The last month a plan takes from the ledger: the one before its year, or the last posted one if that is
 * earlier; and on into the year as long as every posted month holds in the budget what was posted, to the
 * cent, as in a reforecast. -1 when nothing is posted.
 */
export function lastLedgerMonth(books: BudgetBooks, plan: YearIncome, first: PeriodIndex): number {
  const { lastActual } = books;
  if (lastActual === null) return -1;
  if (lastActual < first) return lastActual;
  const [actual, budget] = [books.cube.slab(NO_FILTER), plan.income.slab(NO_FILTER)];
  const isAsPosted = (period: PeriodIndex): boolean => {
    const [was, holds] = [incomeIn(books, actual, period), incomeIn(books, budget, period)];
    return incomePositions(books.chart).every((position) => was[position] === holds[position]);
  };
  let opening = first - 1;
  const end = Math.min(lastActual, first + PERIODS_PER_YEAR - 1);
  while (opening < end && isAsPosted((opening + 1) as PeriodIndex)) opening += 1;
  return opening;
}

/**
 * What a month after the ledger's earns: as the plan budgets it; before the plan's year, as the approved
 * budget of its year does, or else as the same month a year before, which is reported.
 */
export function incomeOf(
  books: BudgetBooks,
  plan: YearIncome,
  { period, levels }: { readonly period: PeriodIndex; readonly levels: MonthEndBalances },
): { readonly income: Float64Array; readonly standIn: 'noApprovedBudget' | 'noFigures' | null } {
  const { year } = periodAt(books.calendar, period);
  const budget = year === plan.year ? plan.income : books.approved.get(year)?.cube;
  if (budget) return { income: incomeIn(books, budget.slab(NO_FILTER), period), standIn: null };
  const before = levels.income(period - PERIODS_PER_YEAR);
  return before === null
    ? { income: new Float64Array(books.chart.accounts.length), standIn: 'noFigures' }
    : { income: before, standIn: 'noApprovedBudget' };
}
