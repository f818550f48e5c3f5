import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import type { Basis } from './basis.ts';
import { type PlacedLine, sliceKey } from './budget-books.ts';
import { historyMonths, lineContext, sliceFilter } from './line-context.ts';
import { slicesByAccount, slotsOfYear } from './slices.ts';
import { booksOf, calendar, fact, head, line, NORTH, positionOf, SOUTH } from './small-budget.ts';

const TYPED: Basis = { kind: 'typed' };
const MONTHS = Array.from({ length: 12 }, (_, month) => month + 1);
const contextOf = (of: PlacedLine, lines: readonly PlacedLine[] = [of], books = booksOf({})) =>
  lineContext(books, head, { line: of, lines });

describe('what the basis of a line draws on', () => {
  it('days of the budget year, and those from Monday to Friday', () => {
    const { days, workingDays } = contextOf(line(1, '6000', TYPED));
    // FY2027 runs from April 2026: source of the working days is a calendar, counted by hand
    expect(days).toEqual([30, 31, 30, 31, 31, 30, 31, 30, 31, 31, 28, 31]);
    expect(workingDays).toEqual([22, 21, 22, 23, 21, 22, 22, 21, 23, 21, 20, 23]);
  });
  it('history of its own slice, the adjustment period with the last month', () => {
    const facts = [fact('6000', 2025, 12, 10), fact('6000', 2025, 13, 5), fact('6000', 2025, 12, 100, SOUTH)];
    expect(contextOf(line(1, '6000', TYPED), [], booksOf({ facts })).year(2025)[11]).toBe(15);
    expect(contextOf(line(1, '6000', TYPED, 0, {}), [], booksOf({ facts })).year(2025)[11]).toBe(0);
  });
  it('nothing outside the calendar or before the ledger begins', () => {
    const none = MONTHS.map(() => null);
    expect(contextOf(line(1, '6000', TYPED)).year(2031)).toEqual(none);
    expect(contextOf(line(1, '6000', TYPED)).year(2027)).toEqual(none);
  });
  it('drivers of its slice in the budget year; null where there is none', () => {
    const books = booksOf({ guests: [7, 8] });
    expect(
      contextOf(line(1, '6000', TYPED), [], books)
        .driver('guests')
        .slice(0, 3),
    ).toEqual([7, 8, null]);
    expect(contextOf(line(1, '6000', TYPED), [], books).driver('boats')).toEqual(MONTHS.map(() => null));
  });
  it('other lines in their shown sign, without itself; null when there is none or the list cannot be read', () => {
    const own = line(1, '6000', TYPED, 10);
    const lines = [own, line(2, '4000', TYPED, -300), line(3, '6100', TYPED, 40), line(4, '4000', TYPED, -7, SOUTH)];
    const { lines: of } = contextOf(own, lines);
    expect([of('4000')?.[0], of('4000', true)?.[0], of('6000-6999')?.[0]]).toEqual([300, 307, 40]);
    expect([of('6000'), of('9000'), of('!')]).toEqual([null, null, null]);
  });
  it('slices that add up to the whole, by month', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.constantFrom(2025, 2026),
            fc.integer({ min: 1, max: 13 }),
            fc.constantFrom(NORTH, SOUTH, {}),
            fc.integer({ min: -1e9, max: 1e9 }),
          ),
        ),
        (posted) => {
          const facts = posted
            .filter(([year, month]) => year === 2025 || month <= 6)
            .map(([year, month, slice, amount]) => fact('6000', year, month, amount, slice));
          const books = booksOf({ facts });
          for (const year of [2025, 2026]) {
            const of = (filter: Record<string, string[]>) => historyMonths(books, { position: positionOf('6000'), filter, year });
            const parts = ['North', 'South', ''].map((value) => of({ department: [value] }));
            const sums = MONTHS.map((_, at) => (parts[0]![at] === null ? null : parts.reduce((sum, part) => sum + part[at]!, 0)));
            expect(of({})).toEqual(sums);
          }
        },
      ),
    ));
});

describe('slices', () => {
  it('have one text whatever the order of their dimensions, and none for an empty value', () => {
    expect(sliceKey({ b: '2', a: '1' })).toBe(sliceKey({ a: '1', b: '2' }));
    expect(sliceKey({ a: '1', b: '' })).toBe(sliceKey({ a: '1' }));
    expect(sliceKey({ a: '1' })).not.toBe(sliceKey({ b: '1' }));
  });
  it('as filters keep to the dimensions of the budget, none given among them', () => {
    expect(sliceFilter(head, { dimensions: { department: 'North', project: 'Hull' } })).toEqual({ department: ['North'] });
    expect(sliceFilter(head, { dimensions: {} })).toEqual({ department: [''] });
  });
  it('are found by account in the years asked for, each once', () => {
    const both = { department: 'North', location: 'Pier' };
    const facts = [
      fact('6000', 2025, 1, 1),
      fact('6000', 2025, 13, 1, both),
      fact('6000', 2026, 1, 1, SOUTH),
      fact('4000', 2025, 2, 1, {}),
    ];
    const found = slicesByAccount(head, facts, [slotsOfYear(calendar, 2025)!]);
    expect([...found.get(positionOf('6000'))!.values()]).toEqual([NORTH]);
    expect([...found.get(positionOf('4000'))!.values()]).toEqual([{}]);
    expect(found.has(positionOf('6100'))).toBe(false);
    expect(slotsOfYear(calendar, 2031)).toBeNull();
  });
});
