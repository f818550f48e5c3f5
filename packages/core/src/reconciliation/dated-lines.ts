import { dayNumber } from '../calendar/day-number.ts';
import type { IsoDate } from '../calendar/iso-date.ts';

/**
 * Lines in order of their days, with columns beside them: for each line of the one side thousands of the other are
 * gone through. All columns have one value a line.
 */
export type DatedLines<Line> = {
  readonly lines: readonly Line[];
  readonly day: Int32Array;
  /** minor units, signed */
  readonly amount: Float64Array;
  /** what the lines have in common: the same number, the same day, party, or both; -1 is of no group */
  readonly groups: readonly { readonly of: Int32Array; readonly count: number }[];
  /** 1 once a line is in a proposal */
  readonly isTaken: Uint8Array;
};

export function datedLines<Line extends { readonly date: IsoDate; readonly amount: number; readonly party: string }>(
  unordered: readonly Line[],
): DatedLines<Line> {
  const lines = unordered
    .map((line) => ({ line, day: dayNumber(line.date) }))
    .sort((a, b) => a.day - b.day)
    .map(({ line }) => line);
  const day = Int32Array.from(lines, ({ date }) => dayNumber(date));
  return {
    lines,
    day,
    amount: Float64Array.from(lines, ({ amount }) => amount),
    groups: [
      numbered(lines, (_, at) => day[at]!),
      numbered(lines, ({ party }, at) => `${day[at]} ${party}`),
      numbered(lines, ({ party }) => party),
    ],
    isTaken: new Uint8Array(lines.length),
  };
}

/** A number for each different key, in the order in which they first come; an empty one is no key. */
function numbered<Line>(lines: readonly Line[], keyOf: (line: Line, at: number) => string | number): { of: Int32Array; count: number } {
  const numbers = new Map<string | number, number>();
  const of = Int32Array.from(lines, (line, at) => {
    const key = keyOf(line, at);
    if (key === '') return -1;
    const number = numbers.get(key) ?? numbers.size;
    numbers.set(key, number);
    return number;
  });
  return { of, count: numbers.size };
}

/** The places of the lines of some days, both ends included: from the first up to, and without, the second. */
export const placesBetween = ({ day }: DatedLines<unknown>, from: number, to: number): readonly [number, number] => [
  firstOn(day, from),
  firstOn(day, to + 1),
];

/** The place of the first line on a day or after it. */
function firstOn(days: Int32Array, day: number): number {
  let [low, high] = [0, days.length];
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (days[middle]! < day) low = middle + 1;
    else high = middle;
  }
  return low;
}
