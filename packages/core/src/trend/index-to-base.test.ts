import { describe, expect, it } from 'vitest';

import { indexToBase } from './index-to-base.ts';

describe('a series as an index', () => {
  it('has 100 at its base', () => expect(indexToBase([50, null, 75, 0], 0)).toEqual([100, null, 150, 0]));
  it('keeps the direction over a negative base', () => expect(indexToBase([-50, -25, 50], 0)).toEqual([-100, -50, 100]));
  it('is nothing over a base of zero, or none', () => {
    expect(indexToBase([0, 5], 0)).toEqual([null, null]);
    expect(indexToBase([null, 5], 0)).toEqual([null, null]);
    expect(indexToBase([], 0)).toEqual([]);
  });
});
