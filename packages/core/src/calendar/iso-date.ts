declare const isoDateBrand: unique symbol;
/** A real calendar date as `YYYY-MM-DD`. */
export type IsoDate = string & { readonly [isoDateBrand]: 'isoDate' };

const LENGTHS = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31] as const;

/** Days in a month of the Gregorian calendar; `month` counts from 1. */
export function daysInMonth(year: number, month: number): number {
  const leap = month === 2 && year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0);
  return (LENGTHS[month - 1] ?? 0) + (leap ? 1 : 0);
}

/** The date as ISO text; `month` counts from 1. The parts are taken as given. */
export function isoDate(year: number, month: number, day: number): IsoDate {
  return `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}` as IsoDate;
}

/**
 * Reads `YYYY-MM-DD`. Null when the layout differs or the day does not exist (2026-02-30).
 * @example parseIsoDate('2026-10-31') // '2026-10-31'
 */
export function parseIsoDate(text: string): IsoDate | null {
  if (text.length !== 10 || text[4] !== '-' || text[7] !== '-') return null;
  const year = Number(text.slice(0, 4));
  const month = Number(text.slice(5, 7));
  const day = Number(text.slice(8, 10));
  if (!Number.isInteger(year) || !Number.isInteger(month) || !Number.isInteger(day)) return null;
  if (month < 1 || month > 12 || day < 1 || day > daysInMonth(year, month)) return null;
  const date = isoDate(year, month, day);
  return date === text ? date : null;
}
