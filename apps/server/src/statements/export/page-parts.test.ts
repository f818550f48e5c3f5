import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { pageParts, pageRows } from './page-parts.ts';

describe('columns broken over pages', () => {
  it('keep blocks whole where a page holds them', () => {
    const columns = [0, 0, 0, 1, 1, 1, 2].map((block) => ({ block, width: 30 }));
    expect(pageParts(columns, 150)).toEqual([
      [0, 1, 2],
      [3, 4, 5, 6],
    ]);
    expect(pageParts(columns, 70)).toEqual([[0, 1], [2, 3], [4, 5], [6]]);
    expect(pageParts([], 100)).toEqual([[]]);
  });
  it('hold every column once, in order, and never more than fits', () =>
    fc.assert(
      fc.property(
        fc.array(fc.record({ block: fc.integer({ min: 0, max: 4 }), width: fc.integer({ min: 10, max: 90 }) }), { maxLength: 60 }),
        fc.integer({ min: 90, max: 400 }),
        (unsorted, room) => {
          const columns = [...unsorted].sort((a, b) => a.block - b.block);
          const parts = pageParts(columns, room);
          expect(parts.flat()).toEqual(columns.map((_, position) => position));
          for (const part of parts) expect(part.reduce((sum, position) => sum + columns[position]!.width, 0)).toBeLessThanOrEqual(room);
        },
      ),
    ));
});

describe('rows broken over pages', () => {
  const rows = (count: number) => Array.from({ length: count }, () => 10);
  it('fill each page, and keep the last ones together', () => {
    expect(pageRows(rows(10), { first: 100, next: 100, together: 5 })).toEqual([{ from: 0, to: 10 }]);
    expect(pageRows(rows(21), { first: 100, next: 100, together: 5 })).toEqual([
      { from: 0, to: 10 },
      { from: 10, to: 16 },
      { from: 16, to: 21 },
    ]);
    // a short statement is broken as it comes
    expect(pageRows(rows(8), { first: 70, next: 100, together: 5 })).toEqual([
      { from: 0, to: 7 },
      { from: 7, to: 8 },
    ]);
    expect(pageRows([], { first: 10, next: 10, together: 5 })).toEqual([{ from: 0, to: 0 }]);
  });
  it('hold every row once, in order, within the page but for a row that is higher than one', () =>
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 5, max: 60 }), { maxLength: 80 }),
        fc.integer({ min: 40, max: 120 }),
        fc.integer({ min: 40, max: 120 }),
        (heights, first, next) => {
          const pages = pageRows(heights, { first, next, together: 5 });
          expect(pages.flatMap(({ from, to }) => heights.slice(from, to))).toEqual(heights);
          pages.forEach(({ from, to }, page) => {
            const used = heights.slice(from, to).reduce((sum, each) => sum + each, 0);
            if (to - from > 1) expect(used).toBeLessThanOrEqual(page === 0 ? first : next);
          });
        },
      ),
    ));
});
