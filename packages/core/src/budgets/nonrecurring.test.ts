import { describe, expect, it } from 'vitest';

import { firstSlot, periodOfYear } from '../calendar/fiscal-calendar.ts';
import { minor } from '../money/minor.ts';
import type { Basis } from './basis.ts';
import type { BudgetBooks } from './budget-books.ts';
import { checkKey } from './budget-checks.ts';
import { historyMonths } from './line-context.ts';
import { type EntryAtAccount, nonrecurringCandidates, nonrecurringFindings, smallestCandidate } from './nonrecurring.ts';
import { booksOf, calendar, fact, line, positionOf } from './small-budget.ts';

// 12,000.00 of revenue a year: 30.00 is the size of a candidate, 3.00 where its text says so
const REVENUE = [2025, 2026].flatMap((year) => Array.from({ length: 12 }, (_, at) => fact('4000', year, at + 1, -100_000)));
const RENT = [2025, 2026].flatMap((year) => Array.from({ length: 6 }, (_, at) => fact('6000', year, at + 1, 10_000)));
const base = booksOf({ facts: [...REVENUE, ...RENT, fact('6100', 2026, 3, 50_000)] });
const books: BudgetBooks = {
  ...base,
  lastActual: periodOfYear(calendar, 2026, 12)!,
  chart: {
    accounts: base.chart.accounts.map((account) =>
      account.number === '4900' ? { ...account, class: 'otherIncome', cashflow: 'Investing', name: 'Gain on disposal' } : account,
    ),
  },
};
const march = periodOfYear(calendar, 2026, 3)!;
const entry = (number: string, amount: number, more: Partial<EntryAtAccount> = {}): EntryAtAccount => ({
  position: positionOf(number),
  period: march,
  entry: { id: 7, number: 'GE-7' },
  memo: 'Work done',
  party: 'Hemlock Builders',
  isPartyKnown: true,
  amount: minor(amount),
  ...more,
});
const candidates = (entries: readonly EntryAtAccount[], of = books, projected = false) =>
  nonrecurringCandidates({ books: of, year: 2026, projected, entries }).map(({ amount, reason }) => [amount, reason]);

describe('what of a year may not recur', () => {
  it('is looked at from a part of the revenue on', () => expect(smallestCandidate(books, 2026)).toBe(300));
  it.each<[string, EntryAtAccount, object | null]>([
    ['a disposal', entry('4900', -400), { code: 'disposal' }],
    ['an insurance recovery', entry('6000', -400, { memo: 'Storm claim settled' }), { code: 'insurance' }],
    ['what its text names', entry('6000', 400, { memo: 'Roof after the Storm' }), { code: 'named', word: 'storm' }],
    ['an account other years do not have', entry('6100', 50_000), { code: 'newAccount' }],
    [
      'a party the account has in no other year',
      entry('6000', 3000, { isPartyKnown: false }),
      { code: 'newParty', party: 'Hemlock Builders' },
    ],
    ['a known party', entry('6000', 3000), null],
    ['a new party with little', entry('6000', 2999, { isPartyKnown: false }), null],
    ['a name inside another word', entry('6000', 400, { memo: 'Brainstorming, premium of insurance' }), null],
  ])('%s', (_, given, reason) => expect(candidates([given])).toEqual(reason === null ? [] : [[given.amount, reason]]));
  it('is listed largest first, without what is marked already', () => {
    const both = [entry('4900', -400), entry('6100', 50_000)];
    expect(candidates(both).map(([amount]) => amount)).toEqual([50_000, -400]);
    const months = new Set([`${positionOf('6100')}:${firstSlot(calendar, march)}`]);
    expect(candidates(both, { ...books, nonrecurring: { ...books.nonrecurring, months } }).map(([amount]) => amount)).toEqual([-400]);
  });
  it('of months to come, as they are budgeted, and these can be left out of a base', () => {
    const plan = booksOf({
      facts: [...REVENUE.slice(0, 18), ...RENT],
      approved: [fact('6100', 2026, 9, 60_000), fact('6000', 2026, 9, 10_000)],
    });
    const september = periodOfYear(calendar, 2026, 9)!;
    const found = nonrecurringCandidates({ books: plan, year: 2026, projected: true, entries: [] });
    expect(found).toEqual([
      { position: positionOf('6100'), period: september, entry: null, memo: '', amount: 60_000, reason: { code: 'newAccount' } },
    ]);
    const place = { position: positionOf('6100'), filter: {}, year: 2026 };
    const reading = { projected: true, includeNonrecurring: false };
    expect(historyMonths(plan, place, reading)[8]).toBe(60_000);
    const marks = [`${positionOf('6100')}:${firstSlot(calendar, september)}`];
    const marked = { ...plan, nonrecurring: { ...plan.nonrecurring, months: new Set(marks) } };
    expect(historyMonths(marked, place, reading)[8]).toBeNull();
    expect(historyMonths(marked, place, { projected: true, includeNonrecurring: true })[8]).toBe(60_000);
  });
});

describe('budget checks name what is still in the base', () => {
  const [candidate] = nonrecurringCandidates({ books, year: 2026, projected: false, entries: [entry('6100', 50_000)] });
  const findings = (basis: Basis, amount = 100) =>
    nonrecurringFindings({ books, lines: [line(1, '6100', basis, amount)] }, { candidates: [candidate!], year: 2026 });
  const same: Basis = { kind: 'sameMonths', year: 2026, changePercent: '0' };
  it.each<[string, Basis, boolean]>([
    ['the same months', same, true],
    ['a total of the year', { kind: 'yearTotal', year: 2026, changePercent: '0', spread: 'even' }, true],
    ['an average with the year in it', { kind: 'averageYears', years: [2025, 2026], changePercent: '0' }, true],
    ['the latest months, when it is among them', { kind: 'latestMonths', count: 10, changePercent: '0' }, true],
    ['the latest months after it', { kind: 'latestMonths', count: 9, changePercent: '0' }, false],
    ['another year', { ...same, year: 2025 }, false],
    ['a basis that keeps one-offs on purpose', { ...same, includeNonrecurring: true }, false],
    ['a typed line', { kind: 'typed' }, false],
  ])('%s', (_, basis, isTold) => expect(findings(basis)).toHaveLength(isTold ? 1 : 0));
  it('by entry, so that an answer stays with it, and not in a line of zero', () => {
    expect(findings(same).map(checkKey)).toEqual(['nonrecurring 6100 GE-7']);
    expect(findings(same)[0]).toMatchObject({ year: 2026, month: 2, amount: 50_000 });
    expect(findings(same, 0)).toEqual([]);
  });
});
