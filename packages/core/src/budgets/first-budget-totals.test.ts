import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { minor } from '../money/minor.ts';
import { firstBudget } from './first-budget.ts';
import { firstBudgetTotals } from './first-budget-totals.ts';
import { booksOf, fact, head, NORTH, SOUTH } from './small-budget.ts';

const totalsOf = (options: Parameters<typeof booksOf>[0], { change = '10', projected = false } = {}) => {
  const books = booksOf(options);
  const lines = firstBudget({ books, head: { ...head, fromYear: 2026 }, changes: { all: change }, projected, roundTo: minor(0) });
  return firstBudgetTotals({ books, fromYear: 2026, lines, projected });
};

describe('a new budget beside the year it starts from', () => {
  it('adds up each class in its shown sign, with the change and what it does to income', () => {
    const { classes, netIncome } = totalsOf({
      facts: [fact('4000', 2026, 1, -1000), fact('4000', 2026, 2, -500, SOUTH), fact('6000', 2026, 1, 300), fact('6100', 2026, 3, 100)],
    });
    expect(classes).toEqual([
      {
        class: 'revenue',
        base: 1500,
        excluded: 0,
        budget: 1650,
        change: { kind: 'amount', value: 150, favor: 'F' },
        percent: { kind: 'ratio', value: 0.1, unit: 'percent' },
      },
      {
        class: 'operatingExpenses',
        base: 400,
        excluded: 0,
        budget: 440,
        change: { kind: 'amount', value: 40, favor: 'U' },
        percent: { kind: 'ratio', value: 0.1, unit: 'percent' },
      },
    ]);
    expect(netIncome).toMatchObject({ base: 1100, budget: 1210, change: { value: 110, favor: 'F' } });
  });
  it('lists classes in statement order, whatever the order of the chart', () => {
    const books = booksOf({ facts: [fact('4000', 2026, 1, -10), fact('6000', 2026, 1, 3), fact('5000', 2026, 1, 4)] });
    const turned = { ...books, chart: { accounts: [...books.chart.accounts] } };
    // revenue and operating expenses change places; their amounts go with the position
    [turned.chart.accounts[1], turned.chart.accounts[4]] = [books.chart.accounts[4]!, books.chart.accounts[1]!];
    const { classes } = firstBudgetTotals({ books: turned, fromYear: 2026, lines: [], projected: false });
    expect(classes.map((each) => each.class)).toEqual(['revenue', 'costOfSales', 'operatingExpenses']);
  });
  it('says what of the base is nonrecurring, and leaves it out of the budget alone', () => {
    const storm = fact('6100', 2026, 3, 900);
    const { classes, netIncome } = totalsOf({ facts: [fact('6100', 2026, 2, 100), storm], nonrecurring: [storm] }, { change: '0' });
    expect(classes).toMatchObject([{ class: 'operatingExpenses', base: 1000, excluded: 900, budget: 100 }]);
    expect(netIncome).toMatchObject({ base: -1000, excluded: -900, budget: -100 });
  });
  it('takes months to come from the approved budget on both sides, when asked to', () => {
    const options = { facts: [fact('6000', 2026, 1, 100)], approved: [fact('6000', 2026, 12, 40), fact('6000', 2026, 1, 999)] };
    expect(totalsOf(options, { projected: true, change: '0' }).classes).toMatchObject([{ base: 140, budget: 140 }]);
    expect(totalsOf(options, { change: '0' }).classes).toMatchObject([{ base: 100, budget: 100 }]);
  });
  it('is not meaningful in percent of a base of zero, and has no rows without amounts', () => {
    const { classes, netIncome } = totalsOf({ facts: [fact('6000', 2026, 1, 100), fact('6000', 2026, 2, -100)] });
    expect(classes).toEqual([]);
    expect(netIncome).toMatchObject({ base: 0, excluded: 0, budget: 0, percent: { kind: 'blank', reason: 'bothZero' } });
    expect(Object.is(netIncome.base, 0)).toBe(true);
  });
  it('its classes add up to net income, whatever the ledger holds', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.constantFrom('4000', '4900', '5000', '6000', '6100', '6800'),
            fc.integer({ min: 1, max: 6 }),
            fc.integer({ min: -9999, max: 9999 }),
            fc.constantFrom(NORTH, SOUTH),
          ),
        ),
        (rows) => {
          const { classes, netIncome } = totalsOf({
            facts: rows.map(([number, month, value, slice]) => fact(number, 2026, month, value, slice)),
          });
          const income = (of: 'base' | 'budget') =>
            classes.reduce((sum, each) => sum + (/^revenue/.test(each.class) ? each[of] : -each[of]), 0);
          expect(netIncome.base).toBe(income('base') || 0);
          expect(netIncome.budget).toBe(income('budget') || 0);
        },
      ),
    ));
});
