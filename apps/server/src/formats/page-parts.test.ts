import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pageParts } from './page-parts.ts';

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
