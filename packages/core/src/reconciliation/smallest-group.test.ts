import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { isoDate } from '../calendar/iso-date.ts';
import { datedLines, placesBetween } from './dated-lines.ts';
import { smallestGroup } from './smallest-group.ts';

type Line = { readonly day: number; readonly amount: number; readonly party: string };
/** Lines in the order in which they are looked at. */
const inOrder = (lines: readonly Line[]): Line[] => [...lines].sort((a, b) => a.day - b.day);
const columnsOf = (lines: readonly Line[]) =>
  datedLines(inOrder(lines).map(({ day, amount, party }) => ({ date: isoDate(2026, 10, day), amount, party })));
const groupOf = (amount: number, lines: readonly Line[]): number[] | null => smallestGroup(amount, columnsOf(lines), [0, lines.length]);

/** Every group of two to six of the first eighteen lines that adds up, by trying them all. */
function triedOneByOne(amount: number, lines: readonly Line[]): number[][] {
  const usable = lines.flatMap((line, at) =>
    line.amount !== 0 && line.amount > 0 === amount > 0 && Math.abs(line.amount) < Math.abs(amount) ? [at] : [],
  );
  const few = usable.slice(0, 18);
  const groups: number[][] = [];
  const extend = (group: readonly number[], from: number): void => {
    if (group.length >= 2 && group.reduce((sum, at) => sum + lines[at]!.amount, 0) === amount) groups.push([...group]);
    if (group.length < 6) for (let next = from; next < few.length; next += 1) extend([...group, few[next]!], next + 1);
  };
  extend([], 0);
  return groups;
}
/** Whether a group is all usable lines of a day, a party, or a party on a day. */
function isWhole(group: readonly number[], amount: number, lines: readonly Line[]): boolean {
  const isUsable = (line: Line): boolean => line.amount > 0 === amount > 0 && line.amount !== 0 && Math.abs(line.amount) < Math.abs(amount);
  const [{ day, party }] = group.map((at) => lines[at]!) as [Line];
  const kinds: readonly ((line: Line) => boolean)[] = [
    (line) => line.day === day,
    (line) => line.day === day && line.party === party,
    (line) => line.party === party && party !== '',
  ];
  return kinds.some((isOf) => String(group) === String(lines.flatMap((line, at) => (isUsable(line) && isOf(line) ? [at] : []))));
}

const lineOf = fc.record({
  day: fc.integer({ min: 1, max: 5 }),
  amount: fc.integer({ min: -12, max: 12 }),
  party: fc.constantFrom('', 'A', 'B'),
});

describe('the smallest group that adds up', () => {
  it('is a whole day or party, or else the only smallest one of all that can be tried', () =>
    fc.assert(
      fc.property(fc.array(lineOf, { maxLength: 11 }), fc.integer({ min: -40, max: 40 }), (unordered, amount) => {
        const lines = inOrder(unordered);
        const group = groupOf(amount, lines);
        const all = triedOneByOne(amount, lines);
        const least = Math.min(...all.map(({ length }) => length));
        const smallest = all.filter(({ length }) => length === least);
        if (group === null) {
          // nothing adds up, or several of one size do
          expect(smallest.length === 0 || smallest.length > 1).toBe(true);
          return;
        }
        expect(group.reduce((sum, at) => sum + lines[at]!.amount, 0)).toBe(amount);
        if (!isWhole(group, amount, lines)) expect(smallest).toEqual([group]);
      }),
      { numRuns: 400 },
    ));
  it('leaves out what is taken, of another sign, zero, or as large as the amount itself', () => {
    const lines = [10, 20, -30, 0, 30, 5].map((amount, at) => ({ day: 1 + at, amount, party: '' }));
    expect(groupOf(30, lines)).toEqual([0, 1]);
    const columns = columnsOf(lines);
    columns.isTaken[0] = 1;
    expect(smallestGroup(30, columns, [0, lines.length])).toBeNull();
  });
  it('is of all lines of a day, however many they are', () => {
    const many = Array.from({ length: 60 }, (_, at) => ({ day: 2, amount: 100 + at, party: `Club ${at}` }));
    const before = Array.from({ length: 30 }, (_, at) => ({ day: 1, amount: 7 * at + 1, party: '' }));
    const total = many.reduce((sum, { amount }) => sum + amount, 0);
    expect(groupOf(total, [...before, ...many])).toEqual(many.map((_, at) => before.length + at));
  });
  it('has six lines at most, of the first eighteen', () => {
    const ones = Array.from({ length: 30 }, (_, at) => ({ day: 1 + (at % 28), amount: 2 ** at, party: '' }));
    const ordered = inOrder(ones);
    const sumOf = (...places: number[]): number => places.reduce((sum, at) => sum + ordered[at]!.amount, 0);
    expect(groupOf(sumOf(0, 3, 5, 8, 12, 17), ones)).toEqual([0, 3, 5, 8, 12, 17]);
    expect(groupOf(sumOf(0, 3, 5, 8, 11, 12, 17), ones)).toBeNull();
    expect(groupOf(sumOf(0, 25), ones)).toBeNull();
  });
  it('of no lines, or of one, is none', () =>
    expect([groupOf(5, []), groupOf(5, [{ day: 1, amount: 3, party: '' }])]).toEqual([null, null]));
});

describe('lines in order of their days', () => {
  it('are found by the first and the last day, both included', () => {
    const columns = columnsOf([3, 5, 5, 9].map((day) => ({ day, amount: day, party: '' })));
    const first = columns.day[0]! - 3;
    const between = (from: number, to: number) => placesBetween(columns, first + from, first + to);
    expect([between(5, 5), between(1, 4), between(4, 9), between(6, 8), between(20, 30)]).toEqual([
      [1, 3],
      [0, 1],
      [1, 4],
      [3, 3],
      [4, 4],
    ]);
  });
  it('share a number for what they have in common; no name is no party', () => {
    const { groups } = columnsOf([
      { day: 1, amount: 1, party: 'A' },
      { day: 1, amount: 2, party: '' },
      { day: 2, amount: 3, party: 'A' },
    ]);
    expect(groups.map(({ of }) => [...of])).toEqual([
      [0, 0, 1],
      [0, 1, 2],
      [0, -1, 0],
    ]);
  });
});
