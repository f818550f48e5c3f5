import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { editDistance, nearMatches } from './near-matches.ts';

describe('how far texts are apart', () => {
  it.each([
    ['', '', 0],
    ['Tours', 'tours', 0],
    ['tuors', 'Tours', 1],
    ['tour', 'Tours', 1],
    ['toors', 'Tours', 1],
    ['', 'abc', 3],
  ])('%s and %s', (a, b, distance) => expect(editDistance(a, b)).toBe(distance));
  it('is the same both ways, and no more than the longer text', () =>
    fc.assert(
      fc.property(fc.string({ maxLength: 12 }), fc.string({ maxLength: 12 }), (a, b) => {
        const distance = editDistance(a, b);
        expect(distance).toBe(editDistance(b, a));
        expect(distance).toBeLessThanOrEqual(Math.max(a.toLowerCase().length, b.toLowerCase().length));
      }),
    ));
});

describe('what was probably meant', () => {
  const values = ['Workshop', 'Store', 'Tours', 'Office'];
  it('is near in spelling, or holds the text', () => {
    expect(nearMatches('wrokshop', values)).toEqual(['Workshop']);
    expect(nearMatches('shop', values)).toEqual(['Workshop']);
    expect(nearMatches('STORE', values)).toEqual(['Store']);
  });
  it('is nothing for a text like none of them, or for none', () => {
    expect(nearMatches('zebra crossing', values)).toEqual([]);
    expect(nearMatches('  ', values)).toEqual([]);
  });
  it('is three at most', () => expect(nearMatches('a', ['a1', 'a2', 'a3', 'a4'])).toHaveLength(3));
});
