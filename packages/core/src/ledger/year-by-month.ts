import { firstSlot, type FiscalCalendar, lastSlot, periodOfYear, PERIODS_PER_YEAR } from '../calendar/fiscal-calendar.ts';
import { type Minor, minor } from '../money/minor.ts';
import type { Slab } from './balance-cube.ts';

/** The twelve months of an account in a fiscal year, debit positive; the adjustment period counts with the last. Outside the calendar: zeros. */
export function yearByMonth(
  slab: Slab,
  calendar: FiscalCalendar,
  { account, year }: { readonly account: number; readonly year: number },
): Minor[] {
  return Array.from({ length: PERIODS_PER_YEAR }, (_, month) => {
    const period = periodOfYear(calendar, year, month + 1);
    return period === null ? minor(0) : slab.change(account, firstSlot(calendar, period), lastSlot(calendar, period));
  });
}
