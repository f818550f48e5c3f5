import { daysInMonth, type IsoDate, isoDate } from '../calendar/iso-date.ts';
import { businessDayOf, businessDaysOf } from './business-days.ts';
import { instantOf, wallTime } from './zoned-time.ts';

/** The day or days of every month something is done on. */
export type ScheduleDay =
  /** by its number; negative numbers count from the end of the month */
  | { readonly kind: 'businessDay'; readonly number: number }
  /** 1 to 31; a shorter month has its last day */
  | { readonly kind: 'dayOfMonth'; readonly number: number }
  | { readonly kind: 'everyBusinessDay' };

/** When something is done every month, or every business day. */
export type Schedule = {
  readonly day: ScheduleDay;
  /** since midnight, by the clock of the zone */
  readonly minutes: number;
  /** such as `America/New_York` */
  readonly zone: string;
  /** days that are no business days */
  readonly holidays: ReadonlySet<string>;
};
/** One time it is done: the moment, in milliseconds since 1970, and the day by the zone's clock. */
export type ScheduledRun = { readonly at: number; readonly date: IsoDate };

/** The days of a month that a schedule names, in order; a month may have none. */
export function scheduledDays({ day, holidays }: Pick<Schedule, 'day' | 'holidays'>, year: number, month: number): IsoDate[] {
  switch (day.kind) {
    case 'businessDay': {
      const date = businessDayOf({ year, month }, { number: day.number, holidays });
      return date === null ? [] : [date];
    }
    case 'dayOfMonth':
      return [isoDate(year, month, Math.min(day.number, daysInMonth(year, month)))];
    case 'everyBusinessDay':
      return businessDaysOf({ year, month }, holidays);
  }
}

/** Every time after a moment and up to another, in order. */
export function runsBetween(schedule: Schedule, { after, until }: { readonly after: number; readonly until: number }): ScheduledRun[] {
  const runs: ScheduledRun[] = [];
  if (until <= after) return runs;
  const last = wallTime(until, schedule.zone).date.slice(0, 7);
  for (let month = monthOf(wallTime(after, schedule.zone).date); ; month += 1) {
    const [year, number] = [Math.floor(month / 12), (month % 12) + 1];
    const key = isoDate(year, number, 1).slice(0, 7);
    if (key > last) return runs;
    for (const date of scheduledDays(schedule, year, number)) {
      const at = instantOf(date, schedule.minutes, schedule.zone);
      if (at > after && at <= until) runs.push({ at, date });
    }
  }
}

// months looked through for the next times: more than any real calendar leaves empty
const MOST_MONTHS = 120;

/** The next times after a moment. */
export function nextRuns(schedule: Schedule, after: number, count: number): ScheduledRun[] {
  const runs: ScheduledRun[] = [];
  const first = monthOf(wallTime(after, schedule.zone).date);
  for (let month = first; month < first + MOST_MONTHS && runs.length < count; month += 1) {
    for (const date of scheduledDays(schedule, Math.floor(month / 12), (month % 12) + 1)) {
      const at = instantOf(date, schedule.minutes, schedule.zone);
      if (at > after) runs.push({ at, date });
    }
  }
  return runs.slice(0, count);
}

/** Months since the year 0. */
const monthOf = (date: IsoDate): number => Number(date.slice(0, 4)) * 12 + Number(date.slice(5, 7)) - 1;
