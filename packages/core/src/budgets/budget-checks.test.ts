import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import type { PeriodIndex } from '../calendar/fiscal-calendar.ts';
import { minor } from '../money/minor.ts';
import type { BudgetBooks } from './budget-books.ts';
import { checkFindings, checkKey } from './budget-checks.ts';
import { booksOf, chart, fact, head, line, NORTH, SOUTH } from './small-budget.ts';

const MONTHS = Array.from({ length: 12 }, (_, month) => month + 1);
/** Two years of steady history: the second projected by its budget. */
const history = (number: string, amount: number) => MONTHS.map((month) => fact(number, 2025, month, amount));
const later = (number: string, amount: number) => MONTHS.map((month) => fact(number, 2026, month, amount));
const usual = [
  ...history('4000', -10_000),
  ...later('4000', -10_000),
  ...history('5000', 4000),
  ...later('5000', 4000),
  ...history('6000', 500),
  ...later('6000', 500),
];
const books: BudgetBooks = booksOf({ facts: usual, approved: usual });
const TYPED = { kind: 'typed' } as const;
const steady = [line(1, '4000', TYPED, -10_000), line(2, '5000', TYPED, 4000), line(3, '6000', TYPED, 500)];
const with2 = (id: number, months: readonly number[]) =>
  steady.map((each) => (each.id === id ? { ...each, months: months.map((amount) => ({ amount: minor(amount), held: false })) } : each));
const found = (lines: typeof steady, of = books) => checkFindings({ books: of, head, lines });
const codes = (lines: typeof steady, of = books) => found(lines, of).map(checkKey);

describe('budget checks', () => {
  it('is empty for a budget like the years before', () => expect(codes(steady)).toEqual([]));
  it('tells a level that jumps, with its size, and a cost that drifts against revenue', () => {
    const findings = found(
      with2(
        3,
        MONTHS.map(() => 900),
      ),
    );
    expect(findings).toEqual([
      { code: 'jump', account: '6000', slice: null, budget: 10_800, prior: 6000, priorYear: 2026, change: 0.8 },
      { code: 'drift', account: '6000', slice: null, share: 0.09, least: 0.05, most: 0.05 },
    ]);
  });
  it('tells a month out of season and months at zero of what runs all year', () => {
    const findings = found(with2(3, [3000, 3000, ...MONTHS.slice(2).map(() => 0)]));
    expect(findings.map(checkKey)).toEqual(['season 6000', 'zeroMonths 6000']);
    expect(findings[0]).toMatchObject({ month: 0, share: 0.5 });
    expect(findings[1]).toMatchObject({ months: [2, 3, 4, 5, 6, 7, 8, 9, 10, 11] });
  });
  it('tells a sign that turned', () =>
    expect(
      codes(
        with2(
          3,
          MONTHS.map(() => -500),
        ),
      ),
    ).toContain('sign 6000'));
  it('tells history without a budget, and revenue without its cost', () => {
    expect(codes(steady.filter(({ id }) => id !== 3))).toEqual(['noBudget 6000']);
    expect(codes(steady.filter(({ id }) => id !== 2))).toEqual(['noCost 5000', 'noBudget 5000']);
  });
  it('tells a budget of an account that is closed', () => {
    const accounts = chart.accounts.map((account) => (account.number === '6000' ? { ...account, active: false } : account));
    expect(codes(steady, { ...books, chart: { accounts } })).toEqual(['inactive 6000']);
  });
  it('does not count one-offs as history', () => {
    const storm = [fact('6000', 2026, 3, 9000)];
    const facts = [...usual, ...storm];
    expect(codes(steady, booksOf({ facts, approved: usual }))).toContain('jump 6000');
    expect(codes(steady, booksOf({ facts, approved: usual, nonrecurring: storm }))).toEqual([]);
  });
  it('names the year it compares with, when the one before has nothing', () => {
    const ended = { ...booksOf({ facts: history('6000', 500) }), lastActual: 11 as PeriodIndex };
    const findings = checkFindings({ books: ended, head, lines: [] });
    expect(findings).toEqual([{ code: 'noBudget', account: '6000', slice: null, prior: 6000, priorYear: 2025 }]);
  });
  describe('slice by slice', () => {
    const both = [
      ...usual,
      ...[2025, 2026].flatMap((year) =>
        MONTHS.flatMap((month) => [
          fact('4000', year, month, -4000, SOUTH),
          fact('5000', year, month, 1600, SOUTH),
          fact('6000', year, month, 500, SOUTH),
        ]),
      ),
    ];
    const split = booksOf({ facts: both, approved: both });
    const south = [line(4, '4000', TYPED, -4000, SOUTH), line(5, '5000', TYPED, 1600, SOUTH), line(6, '6000', TYPED, 500, SOUTH)];
    const changed = (id: number, amount: number) =>
      [...steady, ...south].map((each) => (each.id === id ? line(id, each.account, TYPED, amount, each.dimensions) : each));
    it('is empty when each department is like the years before', () => expect(codes([...steady, ...south], split)).toEqual([]));
    it('tells a department left without a budget, though the account has one', () => {
      const findings = found(
        [...steady, ...south.filter(({ id }) => id !== 6), line(7, '6000', TYPED, 450, { department: 'East' })],
        split,
      );
      expect(findings).toEqual([{ code: 'noBudget', account: '6000', slice: SOUTH, prior: 6000, priorYear: 2026 }]);
      expect(checkKey(findings[0]!)).toBe(`noBudget 6000 [["department","South"]]`);
    });
    it('tells a department that jumps where another falls by as much', () => {
      const moved = changed(3, 900).map((each) => (each.id === 6 ? line(6, '6000', TYPED, 100, SOUTH) : each));
      expect(found(moved, split).map(({ code, slice }) => [code, slice])).toEqual([
        ['jump', NORTH],
        ['jump', SOUTH],
      ]);
    });
    it('tells what the whole account tells already once', () => {
      const raised = changed(3, 900).map((each) => (each.id === 6 ? line(6, '6000', TYPED, 900, SOUTH) : each));
      expect(codes(raised, split).filter((key) => key.startsWith('jump'))).toEqual(['jump 6000']);
    });
    it('tells a department’s revenue without its cost, and not the whole company’s', () => {
      const cost = found(changed(5, 0), split).filter(({ code }) => code === 'noCost');
      expect(cost).toEqual([{ code: 'noCost', account: '5000', slice: SOUTH, months: MONTHS.map((month) => month - 1) }]);
    });
    it('does not ask for cost in months that never had any', () => {
      const seasonal = both.filter(({ account, combination, slot }) => !(account === 3 && combination === SOUTH && slot % 13 < 6));
      const months = found(changed(5, 0), booksOf({ facts: seasonal, approved: seasonal })).flatMap((finding) =>
        finding.code === 'noCost' ? finding.months : [],
      );
      expect(months).toEqual([6, 7, 8, 9, 10, 11]);
    });
  });
  it('says nothing of a company without history', () => expect(codes(steady, booksOf({}))).toEqual([]));
  it('says nothing of any budget that repeats years that repeated one another', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            account: fc.constantFrom('4000', '5000', '6000', '6100'),
            dimensions: fc.constantFrom(NORTH, SOUTH),
            months: fc.array(fc.integer({ min: 0, max: 1e7 }), { minLength: 12, maxLength: 12 }),
          }),
          { maxLength: 8 },
        ),
        (given) => {
          // one line for each account and slice, in the sign of its class
          const own = [...new Map(given.map((each) => [`${each.account} ${JSON.stringify(each.dimensions)}`, each])).values()];
          const sign = (account: string) => (account === '4000' ? -1 : 1);
          const facts = own.flatMap(({ account, dimensions, months }) =>
            [2025, 2026].flatMap((year) =>
              months.map((amount, month) => fact(account, year, month + 1, sign(account) * amount, dimensions)),
            ),
          );
          const lines = own.map(({ account, dimensions, months }, index) => ({
            ...line(index + 1, account, TYPED, 0, dimensions),
            months: months.map((amount) => ({ amount: minor(sign(account) * amount + 0), held: false })),
          }));
          expect(found(lines, booksOf({ facts, approved: facts }))).toEqual([]);
        },
      ),
    ));
  it('has one key for each finding, whatever the budget', () =>
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -1e6, max: 1e6 }), { minLength: 6, maxLength: 6 }), (amounts) => {
        const lines = ['4000', '5000', '6000'].flatMap((account, index) => [
          line(2 * index + 1, account, TYPED, amounts[2 * index]!, NORTH),
          line(2 * index + 2, account, TYPED, amounts[2 * index + 1]!, SOUTH),
        ]);
        const keys = codes(lines);
        expect(new Set(keys).size).toBe(keys.length);
      }),
    ));
});
