import { minor } from '../money/minor.ts';
import { medianOf } from '../postings/median.ts';
import type { FoundCause } from './bills-in-view.ts';

/** The variance of a line in a month. */
export type MonthVariance = { readonly month: number; readonly variance: number };
/** How far the two months may differ, as a part of the larger one. */
const ALIKE = 0.35;
/** How far both stand out from the other months where no text says so. */
const STANDS_OUT = 3;
const FEWEST_OTHERS = 3;

/**
 * Months whose variance a neighboring month takes back: an amount of one month posted or planned in the other.
 * @param months in order, one after the other
 * @param of the month, or months, whose difference is explained
 */
export function timingCauses(
  months: readonly MonthVariance[],
  of: { readonly from: number; readonly to: number },
  lineNaming: (posted: number, named: number) => number | null,
): FoundCause[] {
  return months.flatMap(({ month, variance }, at): FoundCause[] => {
    if (variance === 0 || month < of.from || month > of.to) return [];
    const neighbors = [months[at - 1], months[at + 1]].filter(
      (each): each is MonthVariance =>
        each !== undefined &&
        // within the months that are explained the two cancel out
        (each.month < of.from || each.month > of.to) &&
        each.variance > 0 !== variance > 0 &&
        Math.abs(each.variance + variance) <= ALIKE * Math.max(Math.abs(each.variance), Math.abs(variance)),
    );
    const neighbor = neighbors.sort((a, b) => Math.abs(a.variance + variance) - Math.abs(b.variance + variance))[0];
    if (!neighbor) return [];
    const line = lineNaming(month, neighbor.month) ?? lineNaming(neighbor.month, month);
    if (
      line === null &&
      !standOut(
        [variance, neighbor.variance],
        months.filter((each) => each.month !== month && each !== neighbor),
      )
    )
      return [];
    const size = Math.min(Math.abs(variance), Math.abs(neighbor.variance));
    return [
      {
        kind: 'timing',
        month,
        neighbor: neighbor.month,
        there: minor(neighbor.variance),
        line,
        amount: minor(Math.sign(variance) * size),
      },
    ];
  });
}

const standOut = (pair: readonly number[], others: readonly MonthVariance[]): boolean =>
  others.length >= FEWEST_OTHERS &&
  pair.every((variance) => Math.abs(variance) >= STANDS_OUT * medianOf(others.map((each) => Math.abs(each.variance))));
