import { type FiscalCalendar, periodAt, type PeriodIndex, periodOfYear } from './fiscal-calendar.ts';
import { MONTH_NAMES } from './month-names.ts';
import type { Span } from './span.ts';

const partsOf = (calendar: FiscalCalendar, index: PeriodIndex) => {
  const { key } = periodAt(calendar, index);
  return { month: MONTH_NAMES[Number(key.slice(5)) - 1]!, year: key.slice(0, 4) };
};

/** `Oct 2026` */
export function shortPeriodName(calendar: FiscalCalendar, index: PeriodIndex): string {
  const { month, year } = partsOf(calendar, index);
  return `${month.slice(0, 3)} ${year}`;
}

/** `October 2026` */
export function longPeriodName(calendar: FiscalCalendar, index: PeriodIndex): string {
  const { month, year } = partsOf(calendar, index);
  return `${month} ${year}`;
}

/** The last day of a period: `Oct 31, 2026`. */
export function endDateWords(calendar: FiscalCalendar, index: PeriodIndex): string {
  const { end } = periodAt(calendar, index);
  return `${MONTH_NAMES[Number(end.slice(5, 7)) - 1]!.slice(0, 3)} ${Number(end.slice(8))}, ${end.slice(0, 4)}`;
}

/** A span in words: `Oct 2026`, `Apr to Oct 2026`, `Nov 2025 to Oct 2026`. */
export function spanWords(calendar: FiscalCalendar, span: Span): string {
  if (span.from === span.to) return shortPeriodName(calendar, span.from);
  const from = partsOf(calendar, span.from);
  const to = partsOf(calendar, span.to);
  const first = from.month.slice(0, 3) + (from.year === to.year ? '' : ` ${from.year}`);
  return `${first} to ${to.month.slice(0, 3)} ${to.year}`;
}

/** A month of a fiscal year, counted from 0, by its short name: `Sep`; outside the calendar `month 6`. */
export function monthOfYearName(calendar: FiscalCalendar, year: number, month: number): string {
  const period = periodOfYear(calendar, year, month + 1);
  return period === null ? `month ${month + 1}` : partsOf(calendar, period).month.slice(0, 3);
}
