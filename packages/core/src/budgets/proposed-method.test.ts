import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { minor } from '../money/minor.ts';
import { firstBudget } from './first-budget.ts';
import { proposedMethod, repeatingVariation, REPEATS } from './proposed-method.ts';
import { booksOf, fact, head } from './small-budget.ts';

const SEASON = [10, 20, 40, 80, 120, 160, 150, 90, 40, 20, 15, 10];
// a fixed disorder of the same size in each of three years, none of it in the same month
const NOISE = [0, 5, 10].map((turn) => Array.from({ length: 12 }, (_, month) => 100 + (((month * 7 + turn * 3) % 12) - 5.5) * 10));

describe('how much of the monthly variation repeats', () => {
  it('all of a season, whatever the years grow by', () => {
    expect(repeatingVariation([SEASON, SEASON.map((amount) => amount * 3)])).toBeCloseTo(1, 10);
    expect(repeatingVariation([SEASON.map((amount) => -amount), SEASON])).toBeCloseTo(1, 10);
  });
  it('little of what falls in another month each year', () => expect(repeatingVariation(NOISE)!).toBeLessThan(REPEATS.averageShape));
  it('by hand: two years of two months in exchange repeat nothing, and half a repeat is half', () => {
    const one = [24, ...Array<number>(11).fill(0)];
    const other = [0, 24, ...Array<number>(10).fill(0)];
    // between the months 2 x (2 x (5/12)^2 + 10/144) of 2 x ((11/12)^2 + 11/144) is 60/132: less a half, nothing
    expect(repeatingVariation([one, other])).toBe(0);
  });
  it('is null for one year, years without a total, and months all alike', () => {
    expect(repeatingVariation([SEASON])).toBeNull();
    expect(repeatingVariation([SEASON, Array<number>(12).fill(0)])).toBeNull();
    expect(repeatingVariation([Array<number>(12).fill(7), Array<number>(12).fill(9)])).toBeNull();
  });
  it('is a part from 0 to 1, the same for amounts of either sign and any size', () => {
    const year = fc.array(fc.integer({ min: 1, max: 100_000 }), { minLength: 12, maxLength: 12 });
    fc.assert(
      fc.property(fc.array(year, { minLength: 2, maxLength: 4 }), fc.integer({ min: 1, max: 50 }), (years, factor) => {
        const variation = repeatingVariation(years);
        const turned = repeatingVariation(years.map((months) => months.map((amount) => -amount * factor)));
        if (variation === null || turned === null) return void expect(variation).toBe(turned);
        expect(variation).toBeGreaterThanOrEqual(0);
        expect(variation).toBeLessThanOrEqual(1);
        expect(turned).toBeCloseTo(variation, 9);
      }),
    );
  });
});

describe('the method proposed', () => {
  const half = [SEASON, ...NOISE].map((months, at) => (at === 0 ? months : months.map((amount, month) => amount + SEASON[month]!)));
  it.each([
    ['a season', 'revenue', [SEASON, SEASON], { method: 'sameMonths', because: 'variation', repeats: 1 }],
    ['noise', 'operatingExpenses', NOISE, { method: 'evenYear', because: 'variation' }],
    ['a season under noise', 'operatingExpenses', half.slice(1), { method: 'averageShape', because: 'variation' }],
    [
      'the same each month',
      'operatingExpenses',
      [Array<number>(12).fill(5), Array<number>(12).fill(6)],
      { method: 'evenYear', because: 'noVariation', repeats: null },
    ],
    ['one year', 'revenue', [SEASON], { method: 'sameMonths', because: 'fewYears', repeats: null }],
    ['nothing', 'revenue', [], { method: 'sameMonths', because: 'fewYears', repeats: null }],
    ['depreciation', 'depreciation', [SEASON, SEASON], { method: 'fixedAmount', because: 'depreciation', repeats: null }],
  ] as const)('of %s', (_, of, years, expected) => expect(proposedMethod(of, years)).toMatchObject(expected));

  it('is what each account of a new budget starts with; a class can be set as a whole', () => {
    const facts = [2025, 2026].flatMap((year) =>
      SEASON.flatMap((amount, month) => [
        fact('4000', year, month + 1, -amount * 100),
        fact('6000', year, month + 1, 5000),
        fact('6100', year, month + 1, NOISE[year - 2025]![month]! * 100),
      ]),
    );
    const books = { ...booksOf({ facts }), lastActual: 23 as never };
    const kinds = (bases: Parameters<typeof firstBudget>[0]['bases']) =>
      firstBudget({
        books,
        head: { ...head, fromYear: 2026 },
        changes: { all: '0' },
        bases: bases!,
        projected: false,
        roundTo: minor(0),
      }).map(({ account, basis }) => [account, basis.kind, 'spread' in basis ? basis.spread : '']);
    expect(kinds({ revenue: 'ownHistory', operatingExpenses: 'ownHistory' })).toEqual([
      ['4000', 'sameMonths', ''],
      ['6000', 'yearTotal', 'even'],
      ['6100', 'yearTotal', 'even'],
    ]);
    expect(kinds({ operatingExpenses: 'averageShape' }).slice(1)).toEqual([
      ['6000', 'yearTotal', { by: 'shares', years: [2025, 2026] }],
      ['6100', 'yearTotal', { by: 'shares', years: [2025, 2026] }],
    ]);
  });
});
