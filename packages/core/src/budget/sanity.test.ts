import { describe, expect, it } from 'vitest';
import type { BudgetBooks } from './budget-books.ts';
import { sanityFindings, sanityKey } from './sanity.ts';
import { booksOf, chart, fact, head, line } from './small-budget.ts';
import type { PeriodIndex } from '../calendar/fiscal-calendar.ts';
import { minor } from '../money/minor.ts';

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
const found = (lines: typeof steady, of = books) => sanityFindings({ books: of, head, lines });
const codes = (lines: typeof steady, of = books) => found(lines, of).map(sanityKey);

describe('the sanity list', () => {
  it('is empty for a budget like the years before', () => expect(codes(steady)).toEqual([]));
  it('tells a level that jumps, with its size, and a cost that drifts against revenue', () => {
    const findings = found(
      with2(
        3,
        MONTHS.map(() => 900),
      ),
    );
    expect(findings).toEqual([
      { code: 'jump', account: '6000', budget: 10_800, prior: 6000, priorYear: 2026, change: 0.8 },
      { code: 'drift', account: '6000', share: 0.09, least: 0.05, most: 0.05 },
    ]);
  });
  it('tells a month out of season and months at zero of what runs all year', () => {
    const findings = found(with2(3, [3000, 3000, ...MONTHS.slice(2).map(() => 0)]));
    expect(findings.map(sanityKey)).toEqual(['season 6000', 'zeroMonths 6000']);
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
    expect(codes(steady, booksOf({ facts, approved: usual, oneOffs: storm }))).toEqual([]);
  });
  it('names the year it compares with, when the one before has nothing', () => {
    const ended = { ...booksOf({ facts: history('6000', 500) }), lastPosted: 11 as PeriodIndex };
    const findings = sanityFindings({ books: ended, head, lines: [] });
    expect(findings).toEqual([{ code: 'noBudget', account: '6000', prior: 6000, priorYear: 2025 }]);
  });
  it('says nothing of a company without history', () => expect(codes(steady, booksOf({}))).toEqual([]));
});
