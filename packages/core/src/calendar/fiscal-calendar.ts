import { daysInMonth, type IsoDate, isoDate } from './iso-date.ts';

declare const periodBrand: unique symbol;
declare const slotBrand: unique symbol;
/** Position of a period among all ordinary periods of a calendar, from 0; twelve to a year. */
export type PeriodIndex = number & { readonly [periodBrand]: 'period' };
/** Position in the balance cube: ordinary periods and, where kept, the adjustment period after the last. */
export type Slot = number & { readonly [slotBrand]: 'slot' };

/** How the days of a fiscal year fall into periods. */
export type CalendarPattern =
  | { readonly kind: 'months'; readonly startMonth: number }
  | {
      readonly kind: 'weeks';
      readonly pattern: '4-4-5' | '4-5-4' | '5-4-4';
      readonly yearEnd: 'lastSaturday' | 'nearestSaturday';
      readonly endMonth: number;
    };

export type FiscalPeriod = {
  readonly index: PeriodIndex;
  /** the calendar year in which the fiscal year ends */
  readonly year: number;
  /** 1 to 12 */
  readonly number: number;
  readonly start: IsoDate;
  readonly end: IsoDate;
  /** `2026-10`: the calendar month the period stands for */
  readonly key: string;
};

/** A fiscal calendar laid out over whole years; every span and look-up reads `periods`. */
export type FiscalCalendar = {
  readonly pattern: CalendarPattern;
  readonly hasAdjustmentPeriod: boolean;
  readonly firstYear: number;
  readonly lastYear: number;
  readonly periods: readonly FiscalPeriod[];
};

export const PERIODS_PER_YEAR = 12;

/**
 * Lays out a month-based calendar. A fiscal year carries the number of the calendar year in which
 * it ends: with `startMonth` 4, FY2027 runs April 2026 to March 2027.
 * @throws RangeError for a start month outside 1..12 or years out of order
 */
export function monthCalendar(options: {
  readonly startMonth: number;
  readonly firstYear: number;
  readonly lastYear: number;
  readonly hasAdjustmentPeriod?: boolean;
}): FiscalCalendar {
  const { startMonth, firstYear, lastYear, hasAdjustmentPeriod = false } = options;
  if (!Number.isInteger(startMonth) || startMonth < 1 || startMonth > 12) {
    throw new RangeError(`a fiscal year starts in a month from 1 to 12, not ${startMonth}`);
  }
  if (lastYear < firstYear) throw new RangeError(`the last fiscal year ${lastYear} comes before the first ${firstYear}`);
  const periods: FiscalPeriod[] = [];
  for (let year = firstYear; year <= lastYear; year += 1) {
    for (let number = 1; number <= PERIODS_PER_YEAR; number += 1) {
      const month = ((startMonth + number - 2) % 12) + 1;
      const calendarYear = startMonth > 1 && month >= startMonth ? year - 1 : year;
      periods.push({
        index: periods.length as PeriodIndex,
        year,
        number,
        start: isoDate(calendarYear, month, 1),
        end: isoDate(calendarYear, month, daysInMonth(calendarYear, month)),
        key: isoDate(calendarYear, month, 1).slice(0, 7),
      });
    }
  }
  return { pattern: { kind: 'months', startMonth }, hasAdjustmentPeriod, firstYear, lastYear, periods };
}

/** The fiscal year a date falls in, for a year that starts in `startMonth`. */
export function fiscalYearOfDate(date: IsoDate, startMonth: number): number {
  const year = Number(date.slice(0, 4));
  return startMonth > 1 && Number(date.slice(5, 7)) >= startMonth ? year + 1 : year;
}

/** The period at an index. @throws RangeError outside the calendar */
export function periodAt(calendar: FiscalCalendar, index: PeriodIndex): FiscalPeriod {
  const period = calendar.periods[index];
  if (!period) throw new RangeError(`period ${index} is outside the calendar FY${calendar.firstYear} to FY${calendar.lastYear}`);
  return period;
}

/** The period holding a date, or null when no fiscal year of the calendar holds it. */
export function periodOfDate(calendar: FiscalCalendar, date: IsoDate): PeriodIndex | null {
  let low = 0;
  let high = calendar.periods.length - 1;
  while (low <= high) {
    const middle = (low + high) >> 1;
    const period = calendar.periods[middle]!;
    if (date < period.start) high = middle - 1;
    else if (date > period.end) low = middle + 1;
    else return period.index;
  }
  return null;
}

/** The period with a key such as `2026-10`, or null. */
export function periodOfKey(calendar: FiscalCalendar, key: string): PeriodIndex | null {
  return calendar.periods.find((period) => period.key === key)?.index ?? null;
}

/** The period of a fiscal year and number (1..12), or null outside the calendar. */
export function periodOfYear(calendar: FiscalCalendar, year: number, number: number): PeriodIndex | null {
  if (year < calendar.firstYear || year > calendar.lastYear || number < 1 || number > PERIODS_PER_YEAR) return null;
  return ((year - calendar.firstYear) * PERIODS_PER_YEAR + number - 1) as PeriodIndex;
}

const slotsPerYear = (calendar: FiscalCalendar): number => PERIODS_PER_YEAR + (calendar.hasAdjustmentPeriod ? 1 : 0);

/** How many slots a cube over this calendar has. */
export function slotCount(calendar: FiscalCalendar): number {
  return (calendar.lastYear - calendar.firstYear + 1) * slotsPerYear(calendar);
}

/** The slot of a fiscal year and period number (13 is the adjustment period), or null outside the calendar. */
export function slotOfYear(calendar: FiscalCalendar, year: number, number: number): Slot | null {
  if (year < calendar.firstYear || year > calendar.lastYear || number < 1 || number > slotsPerYear(calendar)) return null;
  return ((year - calendar.firstYear) * slotsPerYear(calendar) + number - 1) as Slot;
}

/** The first slot of a period. */
export function firstSlot(calendar: FiscalCalendar, index: PeriodIndex): Slot {
  const { year, number } = periodAt(calendar, index);
  return slotOfYear(calendar, year, number)!;
}

/** The last slot counted with a period: the adjustment period counts with the year's last one. */
export function lastSlot(calendar: FiscalCalendar, index: PeriodIndex): Slot {
  const { year, number } = periodAt(calendar, index);
  const withAdjustment = calendar.hasAdjustmentPeriod && number === PERIODS_PER_YEAR;
  return slotOfYear(calendar, year, withAdjustment ? number + 1 : number)!;
}

/** The period a slot counts with: the adjustment period with the year's last one. */
export function periodOfSlot(calendar: FiscalCalendar, slot: Slot): PeriodIndex {
  const perYear = slotsPerYear(calendar);
  return (Math.floor(slot / perYear) * PERIODS_PER_YEAR + Math.min(slot % perYear, PERIODS_PER_YEAR - 1)) as PeriodIndex;
}
