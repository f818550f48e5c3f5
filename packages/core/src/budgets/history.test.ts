import { describe, expect, it } from 'vitest';

import { slotOfYear } from '../calendar/fiscal-calendar.ts';
import { minor } from '../money/minor.ts';
import { type Basis, basisWords, deriveYear } from './basis.ts';
import { firstBudget } from './first-budget.ts';
import { historyMonths, lineContext } from './line-context.ts';
import { booksOf, calendar, fact, head, line, NORTH, positionOf, SOUTH } from './small-budget.ts';

const MONTHS = Array.from({ length: 12 }, (_, month) => month + 1);
const repairs = [
  ...MONTHS.map((month) => fact('6100', 2025, month, 100)),
  fact('6100', 2025, 3, 5000),
  ...[1, 2, 3, 4, 5, 6].map((month) => fact('6100', 2026, month, 200)),
];
const storm = [fact('6100', 2025, 3, 5000)];
const derived = (basis: Basis, books: Parameters<typeof booksOf>[0]) => {
  const of = line(1, '6100', basis);
  return deriveYear(basis, lineContext(booksOf(books), head, { line: of, lines: [of] }));
};
const sum = (amounts: readonly number[]) => amounts.reduce((total, amount) => total + amount, 0);

describe('one-offs', () => {
  const basis: Basis = { kind: 'sameMonths', year: 2025, changePercent: '0' };
  it('are left out of what a basis draws on, and it says how much', () => {
    const { months, excluded } = derived(basis, { facts: repairs, nonrecurring: storm });
    expect([sum(months), excluded]).toEqual([1200, 5000]);
    expect(basisWords(basis, (amount) => String(amount / 100), { excluded })).toBe(
      'Same months of FY2025, unchanged, 50 of nonrecurring items excluded',
    );
  });
  it('stay in when the basis keeps them', () => {
    const { months, excluded } = derived({ ...basis, includeNonrecurring: true }, { facts: repairs, nonrecurring: storm });
    expect([sum(months), excluded]).toEqual([6200, 0]);
  });
  it('as a whole month leave the month empty for the same months, and out of an average', () => {
    const months = [`${positionOf('6100')}:${slotOfYear(calendar, 2025, 3)!}`];
    const same = derived(basis, { facts: repairs, months });
    expect([same.months[2], same.excluded]).toEqual([0, 5100]);
    const mean = derived({ kind: 'averageYears', years: [2025, 2026], changePercent: '0' }, { facts: repairs, months });
    expect(mean.months.slice(0, 4)).toEqual([150, 150, 200, 150]);
  });
  it('do not move the window of the latest months: what is left out is what was marked', () => {
    const months = [`${positionOf('6100')}:${slotOfYear(calendar, 2026, 5)!}`];
    const latest = derived({ kind: 'latestMonths', count: 3, changePercent: '0' }, { facts: repairs, months });
    expect([latest.months[0], latest.excluded, latest.issues]).toEqual([200, 200, [{ code: 'tooFewMonths', held: 2 }]]);
  });
  it('are left out of every kind that reads history', () => {
    const kinds: Basis[] = [
      { kind: 'yearTotal', year: 2025, changePercent: '0', spread: 'even' },
      { kind: 'latestMonths', count: 18, changePercent: '0' },
      { kind: 'trend', of: 'months', years: [2025], seasonal: false },
    ];
    for (const each of kinds) expect(derived(each, { facts: repairs, nonrecurring: storm }).excluded).toBe(5000);
  });
});

describe('months to come of a year that is not over', () => {
  const approved = MONTHS.map((month) => fact('6100', 2026, month, 900));
  it('count as budgeted when asked', () => {
    const posted = derived({ kind: 'sameMonths', year: 2026, changePercent: '0' }, { facts: repairs, approved });
    expect([posted.months[5], posted.months[6], posted.issues]).toEqual([200, 0, [{ code: 'partOfYear', year: 2026, months: 6 }]]);
    const projected = derived({ kind: 'sameMonths', year: 2026, changePercent: '0', projected: true }, { facts: repairs, approved });
    expect([projected.months[5], projected.months[6], projected.issues]).toEqual([200, 900, []]);
  });
  it('are empty where no budget stands', () =>
    expect(
      historyMonths(
        booksOf({ facts: repairs }),
        { position: positionOf('6100'), filter: {}, year: 2026 },
        { projected: true, includeNonrecurring: false },
      ).slice(5, 7),
    ).toEqual([200, null]));
});

describe('the first budget of a year', () => {
  const facts = [
    ...MONTHS.map((month) => fact('4000', 2025, month, -1000 * month)),
    ...MONTHS.map((month) => fact('4000', 2025, month, -50, SOUTH)),
    ...MONTHS.map((month) => fact('6000', 2025, month, month === 1 ? 120 : 100)),
    ...MONTHS.map((month) => fact('6800', 2025, month, 70 + month)),
    ...MONTHS.map((month) => fact('1000', 2025, month, 9)),
  ];
  const made = firstBudget({
    books: booksOf({ facts }),
    head: { ...head, fromYear: 2025 },
    changes: { all: '0', byClass: { revenue: '10' } },
    bases: { operatingExpenses: 'evenYear', depreciation: 'fixedAmount' },
    projected: false,
    roundTo: minor(0),
  });
  const of = (number: string) => made.filter(({ account }) => account === number);
  it('has a line for each account and slice with history, and none for the balance sheet', () =>
    expect(made.map(({ account, dimensions }) => [account, dimensions])).toEqual([
      ['4000', NORTH],
      ['4000', SOUTH],
      ['6000', NORTH],
      ['6800', NORTH],
    ]));
  it('begins each class with its own basis and change', () => {
    expect(
      of('4000')[0]!
        .months.map(({ amount }) => amount)
        .slice(0, 2),
    ).toEqual([-1100, -2200]);
    expect(of('6000')[0]!.basis).toMatchObject({ kind: 'yearTotal', spread: 'even' });
    expect(sum(of('6000')[0]!.months.map(({ amount }) => amount))).toBe(1220);
    expect(new Set(of('6800')[0]!.months.map(({ amount }) => amount))).toEqual(new Set([82]));
  });
  it('brings a part of a year to a whole one, by account and slice', () => {
    const part = [1, 2, 3, 4, 5, 6].flatMap((month) => [fact('4000', 2026, month, -1000), fact('4000', 2026, month, -40 * month, SOUTH)]);
    const annualized = firstBudget({
      books: booksOf({ facts: part }),
      head: { ...head, fromYear: 2026 },
      changes: { all: '10' },
      bases: { revenue: 'annualized' },
      projected: false,
      roundTo: minor(0),
    });
    expect(annualized.map(({ basis }) => basis)).toEqual(annualized.map(() => ({ kind: 'latestMonths', count: 6, changePercent: '10' })));
    expect(annualized.map(({ months }) => sum(months.map(({ amount }) => amount)))).toEqual([-13_200, -1848]);
  });
  it('leaves nothing out: lines by slice add up to the accounts', () => {
    const same = firstBudget({
      books: booksOf({ facts }),
      head: { ...head, fromYear: 2025 },
      changes: { all: '0' },
      projected: false,
      roundTo: minor(0),
    });
    for (const number of ['4000', '6000', '6800']) {
      const posted = sum(facts.filter((each) => each.account === positionOf(number)).map(({ amount }) => amount));
      expect(sum(same.filter(({ account }) => account === number).flatMap(({ months }) => months.map(({ amount }) => amount)))).toBe(
        posted,
      );
    }
  });
});
