import {
  type FiscalCalendar,
  periodAt,
  type PeriodIndex,
  periodOfDate,
  periodOfKey,
  PERIODS_PER_YEAR,
} from '../calendar/fiscal-calendar.ts';
import type { IsoDate } from '../calendar/iso-date.ts';

const MONTHS_PER_QUARTER = 3;

/** Which date a section of a review pack shows. */
export type DateRule =
  /** the pack's month, the month before it, the same month a year before */
  | { readonly kind: 'month' | 'monthBefore' | 'sameMonthLastYear' }
  /** from the start of the quarter that holds the pack's month through that month */
  | { readonly kind: 'quarterToDate' }
  /** the day the pack is issued; before that, the day the meeting is planned for */
  | { readonly kind: 'meeting' }
  /** a month that stays, such as `2026-03` */
  | { readonly kind: 'fixed'; readonly month: string };

/** The dates a section's figures are of. */
export type SectionDate = {
  /** the month statements are as of */
  readonly asOf: PeriodIndex;
  /** first and last day of what reports cover; reports of one day show the last */
  readonly from: IsoDate;
  readonly to: IsoDate;
  /** whether months are shown as the quarter to date */
  readonly isQuarter: boolean;
  /** whether `to` is a day within a month */
  readonly isDay: boolean;
};

/**
 * The dates of a section.
 * @param pack.month the pack's month; `meeting` the day of the meeting
 * @returns null where the calendar does not hold them, such as a year before the first one
 */
export function sectionDate(
  calendar: FiscalCalendar,
  rule: DateRule,
  pack: { readonly month: PeriodIndex; readonly meeting: IsoDate },
): SectionDate | null {
  if (rule.kind === 'meeting') {
    const asOf = periodOfDate(calendar, pack.meeting);
    if (asOf === null) return null;
    return { asOf, from: periodAt(calendar, asOf).start, to: pack.meeting, isQuarter: false, isDay: true };
  }
  const asOf = monthOf(calendar, rule, pack.month);
  if (asOf === null || !calendar.periods[asOf]) return null;
  const isQuarter = rule.kind === 'quarterToDate';
  const { number, start, end } = periodAt(calendar, asOf);
  const first = isQuarter ? periodAt(calendar, (asOf - ((number - 1) % MONTHS_PER_QUARTER)) as PeriodIndex).start : start;
  return { asOf, from: first, to: end, isQuarter, isDay: false };
}

function monthOf(calendar: FiscalCalendar, rule: Exclude<DateRule, { readonly kind: 'meeting' }>, month: PeriodIndex): PeriodIndex | null {
  switch (rule.kind) {
    case 'month':
    case 'quarterToDate':
      return month;
    case 'monthBefore':
      return (month - 1) as PeriodIndex;
    case 'sameMonthLastYear':
      return (month - PERIODS_PER_YEAR) as PeriodIndex;
    case 'fixed':
      return periodOfKey(calendar, rule.month);
  }
}
