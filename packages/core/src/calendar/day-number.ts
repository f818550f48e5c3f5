import { daysInMonth, type IsoDate, isoDate } from './iso-date.ts';

const MILLISECONDS_A_DAY = 86_400_000;

/** Days from 1970-01-01 to a date. */
export const dayNumber = (date: string): number => Date.parse(`${date}T00:00:00Z`) / MILLISECONDS_A_DAY;
/** Days from one date to another; below zero when it comes before. */
export const daysBetween = (from: string, to: string): number => dayNumber(to) - dayNumber(from);
/** The day some days later; before it for a negative count. */
export function daysLater(date: IsoDate, count: number): IsoDate {
  let [year, month, day] = [Number(date.slice(0, 4)), Number(date.slice(5, 7)), Number(date.slice(8)) + count];
  while (day < 1) {
    [year, month] = month === 1 ? [year - 1, 12] : [year, month - 1];
    day += daysInMonth(year, month);
  }
  while (day > daysInMonth(year, month)) {
    day -= daysInMonth(year, month);
    [year, month] = month === 12 ? [year + 1, 1] : [year, month + 1];
  }
  return isoDate(year, month, day);
}
