import { dayNumber } from '../calendar/day-number.ts';
import { daysInMonth, type IsoDate, isoDate } from '../calendar/iso-date.ts';

const DAYS_IN_WEEK = 7;
// January 1, 1970 was a Thursday
const THURSDAY = 4;

/** The day of the week, 0 for Sunday. */
export const weekday = (date: IsoDate): number => (((dayNumber(date) + THURSDAY) % DAYS_IN_WEEK) + DAYS_IN_WEEK) % DAYS_IN_WEEK;

/** Monday to Friday, holidays left out. */
export const isBusinessDay = (date: IsoDate, holidays: ReadonlySet<string>): boolean => {
  const day = weekday(date);
  return day !== 0 && day !== 6 && !holidays.has(date);
};

/** The business days of a month, in order. */
export const businessDaysOf = (
  { year, month }: { readonly year: number; readonly month: number },
  holidays: ReadonlySet<string>,
): IsoDate[] =>
  Array.from({ length: daysInMonth(year, month) }, (_, at) => isoDate(year, month, at + 1)).filter((day) => isBusinessDay(day, holidays));

/**
 * A business day of a month by its number from 1, or counted from the end by a negative number. A month with fewer has
 * its last one, or its first; a month without any has null.
 */
export function businessDayOf(
  { year, month }: { readonly year: number; readonly month: number },
  { number, holidays }: { readonly number: number; readonly holidays: ReadonlySet<string> },
): IsoDate | null {
  const days = businessDaysOf({ year, month }, holidays);
  if (days.length === 0) return null;
  const at = number > 0 ? Math.min(number, days.length) - 1 : Math.max(0, days.length + number);
  return days[at]!;
}
