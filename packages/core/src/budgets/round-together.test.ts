import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { fraction, roundFraction, sumFractions } from '../money/fraction.ts';
import { minor } from '../money/minor.ts';
import { firstBudget } from './first-budget.ts';
import { roundTogether } from './round-together.ts';
import { booksOf, fact, head, NORTH, SOUTH } from './small-budget.ts';
import { BudgetWorksheet } from './worksheet.ts';

const months = fc.array(fc.integer({ min: -1e7, max: 1e7 }), { minLength: 12, maxLength: 12 });

describe('months rounded together', () => {
  it('add up to the account’s rounded year, each within a step of its exact amount, zeros at zero', () =>
    fc.assert(
      fc.property(fc.array(months, { minLength: 1, maxLength: 5 }), fc.constantFrom(100, 1000, 2500), (lines, step) => {
        const exact = lines.map((line) => line.map((amount) => fraction(amount * 103, 100)));
        const rounded = roundTogether(exact, step);
        const year = rounded.flat().reduce<number>((sum, amount) => sum + amount, 0);
        expect(year).toBe(roundFraction(sumFractions(exact.flat()), step));
        rounded.forEach((line, at) =>
          line.forEach((amount, month) => {
            expect(amount % step === 0).toBe(true);
            expect(Math.abs(amount - lines[at]![month]! * 1.03)).toBeLessThan(step + 1e-6);
            if (lines[at]![month] === 0) expect(amount).toBe(0);
          }),
        );
      }),
    ));

  it('leave a change of 3% at 3%, for many small lines, and stay when recalculated', () => {
    const amounts = Array.from({ length: 12 }, (_, month) => 4_951 + 137 * month);
    const facts = amounts.flatMap((amount, month) => [
      fact('6000', 2026, month + 1, amount, NORTH),
      fact('6000', 2026, month + 1, amount + 61, SOUTH),
      fact('6000', 2026, month + 1, 4_960, {}),
    ]);
    const books = booksOf({ facts, through: 23 });
    const lines = firstBudget({
      books,
      head: { ...head, fromYear: 2026 },
      changes: { all: '3' },
      projected: false,
      roundTo: minor(10_000),
    });
    const base = facts.reduce((sum, { amount }) => sum + amount, 0);
    const budget = lines.flatMap((line) => line.months).reduce((sum, { amount }) => sum + amount, 0);
    expect(budget).toBe(roundFraction(fraction(base * 103, 100), 10_000));
    const placed = lines.map((line, index) => ({ ...line, id: index + 1, position: 4, slice: JSON.stringify(line.dimensions) }));
    const worksheet = new BudgetWorksheet({ books, head: { ...head, fromYear: 2026 }, lines: placed });
    expect(worksheet.rederive()).toEqual({ changes: [], fault: null });
    // set again for all departments together, the basis gives the same
    const { basis } = lines[0]!;
    expect(worksheet.apply([{ kind: 'basis', account: '6000', basis }], {}).changes).toEqual([]);
  });
});
