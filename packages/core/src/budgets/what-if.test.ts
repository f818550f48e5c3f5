import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { toDecimalText } from '../money/format-amount.ts';
import { minor } from '../money/minor.ts';
import { yearTotal } from './budget-line.ts';
import { booksOf, head, line, SOUTH } from './small-budget.ts';
import { editsOfProposal, targetProposal } from './target.ts';
import { driversOf, whatIf } from './what-if.ts';
import { BudgetWorksheet } from './worksheet.ts';

const TYPED = { kind: 'typed' } as const;
const books = booksOf({});
const guides = {
  kind: 'driverRate',
  driver: { name: 'Guests', months: Array.from({ length: 12 }, () => 2) },
  rates: [{ from: 0, value: '3' }],
  unit: 100,
} as const;
const lines = [
  line(1, '4000', TYPED, -1000),
  line(2, '5000', { kind: 'percentOf', accounts: '4000', percent: '40' }, 400),
  line(3, '6000', TYPED, 55),
  line(4, '6100', guides, 600),
];
const months = (tried: Parameters<typeof whatIf>[0]['tried']) =>
  whatIf({ books, head, lines, tried }).map((each) => each.months[0]!.amount);

describe('what if', () => {
  it('revenue moves with its scale, and what follows it moves along', () =>
    expect(months({ byClass: { revenue: '-10' } })).toEqual([-900, 360, 55, 600]));
  it('a class that follows others moves by its own scale on top', () =>
    expect(months({ byClass: { revenue: '-10', costOfSales: '5' } })).toEqual([-900, 378, 55, 600]));
  it('a driver moves the lines that go by it', () => {
    expect(driversOf(lines)).toEqual(['Guests']);
    expect(months({ byClass: {}, driver: { name: 'Guests', percent: '50' } })).toEqual([-1000, 400, 55, 900]);
    expect(months({ byClass: {}, driver: { name: 'Trips', percent: '50' } })).toEqual([-1000, 400, 55, 600]);
  });
  it('rounds half away from zero, and leaves the budget as it is', () => {
    expect(months({ byClass: { operatingExpenses: '10' } })).toEqual([-1000, 400, 61, 660]);
    expect(lines[2]!.months[0]!.amount).toBe(55);
    expect(() => months({ byClass: { revenue: 'much' } })).toThrow('not a decimal number');
  });
});

describe('a target from above', () => {
  it('is reached to the cent by whatever lines share it, by their size', () =>
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 1e8 }), { minLength: 2, maxLength: 2 }),
        fc.integer({ min: -1e9, max: 1e9 }),
        ([rent, repairs], target) => {
          const worksheet = new BudgetWorksheet({
            books,
            head,
            lines: [line(1, '4000', TYPED, -5e6), line(2, '6000', TYPED, rent), line(3, '6100', TYPED, repairs, SOUTH)],
          });
          const result = () => [...worksheet.lines].reduce((sum, each) => sum - yearTotal(each.months), 0);
          const proposal = targetProposal({
            books,
            lines: worksheet.lines,
            current: minor(result()),
            target: minor(target),
            accounts: ['6000', '6100'],
            counts: () => -1,
          });
          expect(proposal.gap).toBe(target - result() + 0);
          expect(
            worksheet.apply(
              editsOfProposal(proposal.shares, [...worksheet.lines], (amount) => toDecimalText(amount, 2)),
              {},
            ).refusals,
          ).toEqual([]);
          expect(result()).toBe(target === 0 ? 0 : target);
        },
      ),
    ));
  it('is shared by weights of one’s own, evenly when they are all zero', () => {
    const lines = [line(1, '6000', TYPED, 900), line(2, '6100', TYPED, 100, SOUTH)];
    const shared = (weights: readonly number[] | null) =>
      targetProposal({
        books,
        lines,
        current: minor(0),
        target: minor(-100),
        accounts: ['6000', '6100'],
        weights,
        counts: () => -1,
      }).shares.map(({ from, to }) => to - from);
    expect([shared(null), shared([1, 3]), shared([0, 1]), shared([0, 0])]).toEqual([
      [90, 10],
      [25, 75],
      [0, 100],
      [50, 50],
    ]);
  });
  it('keeps the shape of the months, and gives nothing without lines to share it', () => {
    const shaped = {
      ...line(1, '6000', TYPED),
      months: [3, 1, ...Array<number>(10).fill(0)].map((amount) => ({ amount: minor(amount * 100), held: false })),
    };
    const worksheet = new BudgetWorksheet({ books, head, lines: [shaped] });
    const { shares } = targetProposal({
      books,
      lines: worksheet.lines,
      current: minor(-400),
      target: minor(-800),
      accounts: ['6000'],
      counts: () => -1,
    });
    worksheet.apply(
      editsOfProposal(shares, [...worksheet.lines], (amount) => toDecimalText(amount, 2)),
      {},
    );
    expect(
      worksheet
        .line(1)!
        .months.map(({ amount }) => amount)
        .slice(0, 3),
    ).toEqual([600, 200, 0]);
    expect(targetProposal({ books, lines: [], current: minor(0), target: minor(5), accounts: [], counts: () => 1 })).toEqual({
      gap: 5,
      shares: [],
    });
  });
});
