import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { AmountOverflowError, LARGEST_MINOR } from '../money/minor.ts';
import { layerOf, PostingSums, sidesOf } from './posting-sums.ts';

describe('sides of amounts', () => {
  it('adds debits and credits apart, both positive', () => {
    expect(sidesOf([500, -300, -200])).toEqual({ debits: 500, credits: 500 });
    expect(sidesOf([])).toEqual({ debits: 0, credits: 0 });
    expect(Object.is(sidesOf([0, 0]).credits, 0)).toBe(true);
  });
  it('refuses sums that are no longer exact', () => {
    expect(() => sidesOf([LARGEST_MINOR, LARGEST_MINOR])).toThrow(AmountOverflowError);
  });
});

describe('layers', () => {
  it('keeps drafts apart whatever their kind, and closings from the rest', () => {
    expect(layerOf({ kind: 'closing', state: 'draft' })).toBe('draft');
    expect(layerOf({ kind: 'closing', state: 'posted' })).toBe('closing');
    expect(layerOf({ kind: 'reclassification', state: 'posted' })).toBe('ordinary');
    expect(layerOf({ kind: 'adjustment', state: 'posted' })).toBe('ordinary');
  });
});

describe('sums of a posting', () => {
  const line = fc.record({
    account: fc.integer({ min: 0, max: 3 }),
    period: fc.constantFrom(202701, 202702),
    combination: fc.integer({ min: 1, max: 2 }),
    amount: fc.integer({ min: -1e6, max: 1e6 }),
  });
  it('holds each balance equal to the lines that touch it, and its totals equal to all of them', () => {
    fc.assert(
      fc.property(fc.array(line, { maxLength: 60 }), (lines) => {
        const sums = new PostingSums();
        for (const { amount, ...place } of lines) sums.add({ ...place, layer: 'ordinary' }, amount);
        expect(sums.sides).toEqual(sidesOf(lines.map(({ amount }) => amount)));
        for (const balance of sums.balances()) {
          const own = lines.filter(
            (each) => each.account === balance.account && each.period === balance.period && each.combination === balance.combination,
          );
          expect({ debits: balance.debits, credits: balance.credits }).toEqual(sidesOf(own.map(({ amount }) => amount)));
        }
        const touched = new Set(lines.map(({ account, period, combination }) => `${account} ${period} ${combination}`));
        expect(sums.balances()).toHaveLength(touched.size);
      }),
    );
  });
});
