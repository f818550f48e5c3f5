import type { BudgetBooks } from '../budgets/budget-books.ts';
import { type PeriodIndex, PERIODS_PER_YEAR } from '../calendar/fiscal-calendar.ts';
import { minor } from '../money/minor.ts';
import type { BalancePlanIssue, InterestMonth } from './balance-plan-issue.ts';
import type { LoanMonth } from './loan-schedule.ts';
import { classTotal, type MonthEndBalances } from './month-end-balances.ts';
import type { PlannedRule } from './planned-rules.ts';

const YEAR = PERIODS_PER_YEAR;

/** Interest by the schedules and by the budget, by month; nothing where there is no loan. */
export function interestOf(
  { chart }: BudgetBooks,
  at: {
    readonly levels: MonthEndBalances;
    readonly loans: readonly ReadonlyMap<number, LoanMonth>[];
    readonly from: PeriodIndex;
    readonly to: number;
  },
): readonly InterestMonth[] {
  const { levels, loans, from, to } = at;
  if (loans.length === 0) return [];
  return Array.from({ length: to - from }, (_, index) => {
    const period = (from + index) as PeriodIndex;
    const scheduled = loans.reduce((sum, book) => sum + (book.get(period)?.interest ?? 0), 0);
    return { period, scheduled: minor(scheduled), budgeted: minor(classTotal(chart, levels.income(period)!, ['interestExpense'])) };
  });
}

/** Debt that owes something at a month end of the year and is not on a schedule. */
export function unscheduledDebt(
  { chart }: BudgetBooks,
  {
    levels,
    rules,
    first,
  }: { readonly levels: MonthEndBalances; readonly rules: ReadonlyMap<number, PlannedRule>; readonly first: PeriodIndex },
): string[] {
  return chart.accounts.flatMap(({ number, class: of }, position) => {
    if ((of !== 'shortTermDebt' && of !== 'longTermDebt') || rules.get(position)!.rule.kind === 'loan') return [];
    return Array.from({ length: YEAR }, (_, month) => levels.level(position, first + month)).some((level) => level !== 0) ? [number] : [];
  });
}

/** Interest that schedules and budget do not agree on, reported once for the year. */
export function interestIssue(interest: readonly InterestMonth[], unscheduled: readonly string[]): BalancePlanIssue[] {
  const [scheduled, budgeted] = (['scheduled', 'budgeted'] as const).map((key) =>
    minor(interest.reduce((sum, month) => sum + month[key], 0)),
  );
  return interest.some((month) => month.scheduled !== month.budgeted)
    ? [{ code: 'interestDiffers', scheduled: scheduled!, budgeted: budgeted!, unscheduled }]
    : [];
}
