import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

import { averageOfShares, basisContext, compoundGrowth, deriveYear, leastSquares, minor, monthlyShares } from '@wise-margin/core';
import { describe, expect, it } from 'vitest';

// Source: Box and Jenkins (1976) series G as in R datasets::AirPassengers; results by R 4.2.2 (stats::lm), in values/.
const read = (name: string) => readFileSync(join(fileURLToPath(new URL('.', import.meta.url)), 'values', name), 'utf8');
const seasonal = JSON.parse(read('seasonal.json')) as { shares: Record<string, number[]>; averageOfShares: Record<string, number[]> };
const trend = JSON.parse(read('trend.json')) as {
  annual: { totals: number[]; interceptT0: number; slope: number; fitted: number[]; prediction1961: number };
  monthly: { interceptT0: number; slope: number; prediction1961: number[] };
  cagr: { from: number; to: number; value: number };
};
const years = new Map<number, number[]>();
for (const line of read('airpassengers.csv').split('\n')) {
  const [month, value] = line.replaceAll('"', '').split(',');
  if (!/^\d{4}-\d\d$/.test(month ?? '')) continue;
  const year = Number(month!.slice(0, 4));
  years.set(year, [...(years.get(year) ?? []), Number(value)]);
}
const list = (found: readonly number[] | null | undefined, wanted: readonly number[]) => {
  expect(found).toHaveLength(wanted.length);
  wanted.forEach((value, index) => expect(Math.abs(found![index]! - value)).toBeLessThanOrEqual(1e-9 * Math.abs(value)));
};

describe('seasonal shares', () => {
  it.each(Object.entries(seasonal.shares))('of %s', (year, wanted) => list(monthlyShares(years.get(Number(year))!), wanted));
  it.each([
    ['last1_1960', [1960]],
    ['last2_1959_1960', [1959, 1960]],
    ['last3_1958_1960', [1958, 1959, 1960]],
  ] as const)('averaged: %s', (key, of) => list(averageOfShares(of.map((year) => years.get(year)!)), seasonal.averageOfShares[key]!));
});

describe('straight lines', () => {
  it('through the years and on to the next', () => {
    const line = leastSquares(trend.annual.totals)!;
    list([line.intercept, line.slope, line.at(12)], [trend.annual.interceptT0, trend.annual.slope, trend.annual.prediction1961]);
    list(
      trend.annual.totals.map((_, t) => line.at(t)),
      trend.annual.fitted,
    );
  });
  it('through the months and on through the next year', () => {
    const line = leastSquares([...years.values()].flat())!;
    list([line.intercept, line.slope], [trend.monthly.interceptT0, trend.monthly.slope]);
    list(
      Array.from({ length: 12 }, (_, month) => line.at(144 + month)),
      trend.monthly.prediction1961,
    );
  });
  it('as the basis of a budget, to the cent', () => {
    const inCents = new Map([...years].map(([year, months]) => [year, months.map((value) => minor(value * 100))]));
    const context = basisContext({ year: (year) => inCents.get(year) ?? [] });
    const all = [...years.keys()];
    const { months } = deriveYear({ kind: 'trend', of: 'months', years: all, seasonal: false }, context);
    expect(months).toEqual(trend.monthly.prediction1961.map((value) => Math.round(value * 100)));
    const inYears = deriveYear({ kind: 'trend', of: 'years', years: all, seasonal: true }, context);
    expect(
      Math.abs(inYears.months.reduce<number>((sum, amount) => sum + amount, 0) - trend.annual.prediction1961 * 100),
    ).toBeLessThanOrEqual(6);
  });
  it('are none through a single value', () => expect([leastSquares([1]), leastSquares([null, 3])]).toEqual([null, null]));
});

describe('compound growth', () => {
  it('from the first year to the last', () => {
    const { from, to, value } = trend.cagr;
    list([compoundGrowth(from, to, 11)!], [value]);
  });
  it('is none from zero, across zero, or without a step', () =>
    expect([compoundGrowth(0, 5, 2), compoundGrowth(-5, 5, 2), compoundGrowth(5, 6, 0)]).toEqual([null, null, null]));
});
