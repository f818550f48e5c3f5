import { describe, expect, it } from 'vitest';

import { proposedAggregation } from './proposed-aggregation.ts';

describe('the proposed aggregation of a statistic', () => {
  it.each([
    ['tour_guests', 'sum'],
    ['kayaks_built', 'sum'],
    ['hireDays', 'sum'],
    ['web visits', 'sum'],
    ['headcount', 'average'],
    ['Square feet', 'average'],
    ['occupancy_rate', 'average'],
    ['subscribers', 'last'],
    ['order backlog', 'last'],
  ])('of %s by its name is %s', (name, over) => expect(proposedAggregation(name, [1, 900, 4, 12])).toBe(over));
  it('goes by the values when the name does not tell', () => {
    expect(proposedAggregation('kpi 7', [100, 104, 98, 101, 99])).toBe('average');
    expect(proposedAggregation('kpi 7', [100, 20, 300, 101, 99])).toBe('sum');
    expect(proposedAggregation('kpi 7', [100, 100])).toBe('sum');
    expect(proposedAggregation('kpi 7', [0, 0, 0, 0])).toBe('sum');
  });
});
