import { describe, expect, it } from 'vitest';

import { differences, numbersOf } from './differences.ts';

describe('figures of two versions', () => {
  it('are every number, also one sent as text, and every place without one', () => {
    expect(numbersOf({ name: 'Sales', cells: [1, null, '-2.5'], more: { share: 0.3, on: true } })).toEqual([1, null, -2.5, 0.3]);
  });

  it('may be in renamed fields', () => {
    expect(differences({ grid: numbersOf({ before: [1, 2] }) }, { grid: numbersOf({ after: [1, 2] }) })).toEqual([]);
  });

  it('are named where they differ', () => {
    const before = { grid: [1, 2, 3], months: [4], gone: [] };
    const after = { grid: [1, null, 3], months: [4, 5], added: [] };
    expect(differences(before, after)).toEqual([
      'grid: figure 2 was 2 and is null',
      'months: 1 figures before, 2 after',
      'gone: only before',
      'added: only after',
    ]);
  });
});
