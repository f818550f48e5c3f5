import { daysBetween } from '../calendar/day-number.ts';
import { daysInMonth, type IsoDate, isoDate } from '../calendar/iso-date.ts';

export type AgingBasis = 'due' | 'document';
/** How ages are cut: a number of buckets of a size, then everything older. By due date one bucket before them is not yet due. */
export type AgingBuckets = { readonly unit: 'days' | 'months'; readonly size: number; readonly count: number };
export const DEFAULT_BUCKETS: AgingBuckets = { unit: 'days', size: 30, count: 3 };

/** How many buckets there are, not yet due and the oldest included. */
export const bucketCount = (basis: AgingBasis, { count }: AgingBuckets): number => count + (basis === 'due' ? 2 : 1);

/**
 * The bucket of a date at another: by due date 0 is not yet due and the day itself, 1 is 1 to 30 days past due; by document
 * date 0 is 0 to 30 days old. Of months, a bucket ends on the same day of a later month, or on its last day.
 */
export function bucketAt(
  date: IsoDate,
  asOf: IsoDate,
  { basis, buckets }: { readonly basis: AgingBasis; readonly buckets: AgingBuckets },
): number {
  const age = buckets.unit === 'days' ? daysBetween(date, asOf) : monthsBetween(date, asOf);
  const past = age <= 0 ? 0 : Math.ceil(age / buckets.size);
  const position = basis === 'due' ? past : Math.max(0, past - 1);
  return Math.min(position, bucketCount(basis, buckets) - 1);
}

/** `Not yet due`, `1 to 30`, `31 to 60`, `Over 90`: the columns of an aging, in order. */
export function bucketNames(basis: AgingBasis, { size, count }: AgingBuckets): string[] {
  const between = Array.from({ length: count }, (_, at) => {
    const from = at * size + (basis === 'document' && at === 0 ? 0 : 1);
    const to = (at + 1) * size;
    return from === to ? String(to) : `${from} to ${to}`;
  });
  return [...(basis === 'due' ? ['Not yet due'] : []), ...between, `Over ${count * size}`];
}

/** The same day a number of months later, or earlier below zero; the last day of a shorter month. */
export function monthsLater(date: IsoDate, months: number): IsoDate {
  const at = Number(date.slice(0, 4)) * 12 + Number(date.slice(5, 7)) - 1 + months;
  const [year, month] = [Math.floor(at / 12), (at % 12) + 1];
  return isoDate(year, month, Math.min(Number(date.slice(8)), daysInMonth(year, month)));
}

/** The fewest whole months after a date that reach another; 0 or less when it is not later. */
function monthsBetween(from: IsoDate, to: IsoDate): number {
  const months = (Number(to.slice(0, 4)) - Number(from.slice(0, 4))) * 12 + Number(to.slice(5, 7)) - Number(from.slice(5, 7));
  return monthsLater(from, months) < to ? months + 1 : monthsLater(from, months - 1) >= to ? months - 1 : months;
}
