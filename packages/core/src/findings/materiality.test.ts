import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import type { Minor } from '../money/minor.ts';
import { isMaterial, type Limit, limitFor, type Materiality, suggestedMateriality } from './materiality.ts';

const limit = (of: Partial<Limit>): Limit => ({ amount: 5000 as Minor, percent: 0.1, passes: 'either', least: 0 as Minor, ...of });

describe('a variance is material', () => {
  it('at any whole percent of its base exactly, and not a unit below it', () =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 100 }), fc.integer({ min: 1, max: 90_000_000_000 }), (percent, hundredths) => {
        const asked = limit({ amount: null, percent: percent / 100 });
        const base = hundredths * 100;
        expect([isMaterial(percent * hundredths, base, asked), isMaterial(percent * hundredths - 1, base, asked)]).toEqual([true, false]);
      }),
    ));

  it.each([
    ['past the amount', 6000, 1e9, limit({}), true],
    ['past the percent', 600, 1000, limit({}), true],
    ['at the amount itself', -5000, 1e9, limit({}), true],
    ['of zero never', 0, 0, limit({}), false],
    ['past one limit, where both are asked', 6000, 1e9, limit({ passes: 'both' }), false],
    ['past both', 6000, 10_000, limit({ passes: 'both' }), true],
    ['from a base of zero, which any percent passes', 10, 0, limit({}), true],
    ['not from a tiny base alone', 90, 10, limit({ least: 100 as Minor }), false],
    ['by the amount alone', 600, 1000, limit({ percent: null }), false],
    ['by the percent alone', 600, 1000, limit({ amount: null }), true],
    ['by nothing, where nothing is asked', 1e12, 1, limit({ amount: null, percent: null }), false],
  ] as const)('%s', (_, variance, base, of, expected) => expect(isMaterial(variance, base, of)).toBe(expected));

  it('on either side alike, and the more the larger it is', () =>
    fc.assert(
      fc.property(fc.integer(), fc.integer(), fc.nat(), (variance, base, more) => {
        expect(isMaterial(variance, base, limit({}))).toBe(isMaterial(-variance, base, limit({})));
        if (isMaterial(variance, base, limit({}))) expect(isMaterial(variance + Math.sign(variance) * more, base, limit({}))).toBe(true);
      }),
    ));
});

it('a line’s own limit stands before that of its class, its view and the company', () => {
  const spans = (amount: number) => ({ month: limit({ amount: amount as Minor }), yearToDate: limit({ amount: (amount * 2) as Minor }) });
  const materiality: Materiality = {
    ...spans(1),
    overrides: [
      { of: 'view', key: 'income', ...spans(2) },
      { of: 'class', key: 'revenue', ...spans(3) },
      { of: 'line', key: 'tours', ...spans(4) },
    ],
  };
  const amount = (view: string, line: string, accountClass: string | null) =>
    limitFor(materiality, { span: 'month', view, line, accountClass }).amount;
  expect([
    amount('income', 'tours', 'revenue'),
    amount('income', 'store', 'revenue'),
    amount('income', 'rent', 'operatingExpenses'),
    amount('balance', 'cash', null),
  ]).toEqual([4, 3, 2, 1]);
  expect(limitFor(materiality, { span: 'yearToDate', view: 'income', line: 'tours', accountClass: null }).amount).toBe(8);
});

it('limits to begin with follow revenue, to a leading digit', () => {
  const { month, yearToDate } = suggestedMateriality(460_000_000, 100);
  expect([month.amount, month.least, yearToDate.amount, yearToDate.least]).toEqual([400_000, 80_000, 1_000_000, 200_000]);
  expect(suggestedMateriality(0, 1).month.amount).toBe(1000);
});
