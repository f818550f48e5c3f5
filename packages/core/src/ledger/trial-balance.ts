import { firstSlot, type FiscalCalendar, lastSlot, periodAt, type PeriodIndex, periodOfYear } from '../calendar/fiscal-calendar.ts';
import { type Chart, incomePositions, isIncomeAccount } from '../chart/account.ts';
import { type Minor, minor, ZERO } from '../money/minor.ts';
import type { Slab } from './balance-cube.ts';

/** One account's balances, debit positive. */
export type TrialBalanceRow = {
  /** position in the chart; null for a result that stands in income accounts */
  readonly account: number | null;
  /** which result, where it is no account: of earlier years that no closing entry moved yet, or the part of this year's that closing entries moved already */
  readonly result: 'earlierYears' | 'closedThisYear' | null;
  /** at the start of the fiscal year; income accounts begin at zero */
  readonly opening: Minor;
  /** net change from the start of the year through the month */
  readonly yearToDate: Minor;
  /** net change in the month, the adjustment period counted with the last one */
  readonly month: Minor;
  readonly closing: Minor;
};
export type TrialBalance = {
  readonly rows: readonly TrialBalanceRow[];
  readonly debits: Minor;
  readonly credits: Minor;
};

/**
 * The result of earlier fiscal years still standing in income accounts, debit positive: what is to
 * be rolled into retained earnings at the start of a year. Zero when closing entries moved it all.
 * Closing entries dated within the year itself are undone, so that its own result still shows.
 * @param income chart positions of the income accounts
 * @param slots.upTo slot through which closing entries are counted
 */
export function unclosedEarnings(
  slab: Slab,
  income: readonly number[],
  slots: { readonly yearStart: number; readonly upTo: number },
): Minor {
  return minor(income.reduce((sum, index) => sum + slab.closing(index, slots.yearStart - 1), slab.closedIncome(slots.upTo)));
}

/**
 * The trial balance at the end of a period, before the closing entries of its own fiscal year.
 * Rows are in chart order, accounts without any balance or movement left out; the last rows roll
 * earlier years' result into equity where no closing entry did, and undo the closing entries of the
 * year itself. Debits equal credits.
 */
export function trialBalance(
  slab: Slab,
  { chart, calendar }: { readonly chart: Chart; readonly calendar: FiscalCalendar },
  period: PeriodIndex,
): TrialBalance {
  const { year } = periodAt(calendar, period);
  const start = firstSlot(calendar, periodOfYear(calendar, year, 1)!);
  const monthStart = firstSlot(calendar, period);
  const end = lastSlot(calendar, period);
  const rows: TrialBalanceRow[] = chart.accounts.map((account, index) => {
    const opening = isIncomeAccount(account) ? ZERO : slab.closing(index, start - 1);
    const yearToDate = slab.change(index, start, end);
    return {
      account: index,
      result: null,
      opening,
      yearToDate,
      month: slab.change(index, monthStart, end),
      closing: minor(opening + yearToDate),
    };
  });
  const income = incomePositions(chart);
  const opening = unclosedEarnings(slab, income, { yearStart: start, upTo: start - 1 });
  const closing = unclosedEarnings(slab, income, { yearStart: start, upTo: end });
  const beforeMonth = unclosedEarnings(slab, income, { yearStart: start, upTo: Math.max(start, monthStart) - 1 });
  // closing entries move results of earlier years first, where some are left
  const earlierLeft = (now: number): number => (opening > 0 ? Math.max(0, Math.min(opening, now)) : Math.min(0, Math.max(opening, now)));
  for (const result of ['earlierYears', 'closedThisYear'] as const) {
    const at = (now: number): number => (result === 'earlierYears' ? earlierLeft(now) : now - earlierLeft(now));
    rows.push({
      account: null,
      result,
      opening: minor(at(opening)),
      closing: minor(at(closing)),
      yearToDate: minor(at(closing) - at(opening)),
      month: minor(at(closing) - at(beforeMonth)),
    });
  }
  const held = rows.filter((row) => row.opening !== 0 || row.yearToDate !== 0 || row.closing !== 0 || row.month !== 0);
  const sum = (side: 1 | -1) => minor(held.reduce((total, { closing: value }) => total + Math.max(0, side * value), 0));
  return { rows: held, debits: sum(1), credits: sum(-1) };
}
