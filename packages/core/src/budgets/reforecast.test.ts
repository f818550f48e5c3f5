import { describe, expect, it } from 'vitest';

import { type PeriodIndex, slotOfYear } from '../calendar/fiscal-calendar.ts';
import { reforecast } from './reforecast.ts';
import { booksOf, calendar, fact, head, line, positionOf, SOUTH } from './small-budget.ts';

// FY2026 is posted through its sixth month; its budget is reforecast
const facts = [
  ...Array.from({ length: 12 }, (_, month) => fact('6000', 2025, month + 1, 100 + 10 * month)),
  ...Array.from({ length: 6 }, (_, month) => fact('6000', 2026, month + 1, 220 + 10 * month)),
];
const options = { books: booksOf({ facts }), head: { ...head, year: 2026 }, lines: [line(1, '6000', { kind: 'typed' }, 50)] };
const amounts = (through: number, rest: 'budget' | 'runRate' | 'trend') =>
  reforecast({ ...options, through: through as PeriodIndex, rest })[0]!.months.map(({ amount }) => amount);

describe('a reforecast', () => {
  it('takes actuals through a month and holds them, and the budget after', () => {
    expect(amounts(14, 'budget')).toEqual([220, 230, 240, ...Array.from({ length: 9 }, () => 50)]);
    const [made] = reforecast({ ...options, through: 14 as PeriodIndex, rest: 'budget' });
    expect(made!.months.map(({ held }) => held).slice(1, 5)).toEqual([true, true, false, false]);
  });
  it('holds what was posted without having been budgeted, in its own slice, so that posted months are those of the ledger', () => {
    const books = booksOf({
      facts: [...facts, fact('6100', 2026, 2, 77, SOUTH), fact('6000', 2026, 3, 5, SOUTH), fact('1000', 2026, 3, 9)],
    });
    const made = reforecast({ ...options, books, through: 14 as PeriodIndex, rest: 'budget' });
    expect(made.map(({ account, dimensions }) => [account, dimensions['department']])).toEqual([
      ['6000', 'North'],
      ['6000', 'South'],
      ['6100', 'South'],
    ]);
    for (const number of ['6000', '6100']) {
      const slab = books.cube.slab({});
      for (const month of [0, 1, 2]) {
        const slot = slotOfYear(calendar, 2026, month + 1)!;
        const held = made.filter(({ account }) => account === number).reduce((sum, each) => sum + each.months[month]!.amount, 0);
        expect(held).toBe(slab.change(positionOf(number), slot, slot));
      }
    }
  });
  it('takes nothing past the last posted month', () => expect(amounts(23, 'budget').slice(5, 8)).toEqual([270, 50, 50]));
  it('goes on at the mean of the posted months', () => expect(amounts(17, 'runRate').slice(5, 8)).toEqual([270, 245, 245]));
  it('goes on along the line through the last twelve months', () => expect(amounts(17, 'trend').slice(5, 8)).toEqual([270, 280, 290]));
  it('is the budget itself before anything is posted', () => expect(amounts(11, 'budget')).toEqual(Array.from({ length: 12 }, () => 50)));
});
