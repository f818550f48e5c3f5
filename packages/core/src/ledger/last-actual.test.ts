import { describe, expect, it } from 'vitest';

import { monthCalendar, type PeriodIndex, slotCount, slotOfYear } from '../calendar/fiscal-calendar.ts';
import { minor } from '../money/minor.ts';
import { BalanceCube } from './balance-cube.ts';
import { actualThrough, lastActualMonth, shownThrough } from './last-actual.ts';

const calendar = monthCalendar({ startMonth: 4, firstYear: 2024, lastYear: 2027, hasAdjustmentPeriod: true });
const ACCOUNTS = 40;
const at = (index: number) => index as PeriodIndex;

/** Books whose months have postings in the first so many accounts. */
function books(counts: readonly number[], more: { closed?: number; chosen?: { month: number; insteadOf: number } } = {}) {
  const cube = new BalanceCube({ isIncome: Array.from({ length: ACCOUNTS }, () => true), slots: slotCount(calendar) });
  counts.forEach((count, month) => {
    const { year, number } = calendar.periods[month]!;
    cube.post(
      Array.from({ length: count }, (_, account) => ({
        account,
        slot: slotOfYear(calendar, year, number)!,
        combination: {},
        layer: 'ordinary' as const,
        amount: minor(100),
      })),
    );
  });
  const posted = counts.flatMap((count, month) => (count > 0 ? [at(month)] : []));
  return lastActualMonth({
    calendar,
    slab: cube.slab({}),
    accounts: ACCOUNTS,
    firstPosted: posted[0] ?? null,
    lastPosted: posted.at(-1) ?? null,
    closed: more.closed === undefined ? null : at(more.closed),
    chosen: more.chosen ? { month: at(more.chosen.month), insteadOf: at(more.chosen.insteadOf) } : null,
  });
}
const full = (months: number) => Array.from({ length: months }, () => 40);

describe('the last month of actuals', () => {
  it('is none while nothing is posted, and the only month when there is one', () => {
    expect(books([]).month).toBeNull();
    expect(books([3])).toMatchObject({ month: 0, basis: 'usualAccounts', unclear: null });
  });
  it('is not a month with the reversal of one accrual', () => {
    expect(books([...full(7), 2])).toMatchObject({ month: 6, basis: 'usualAccounts', unclear: null });
  });
  it('is not the end of a prepayment that was posted a year ahead', () => {
    expect(books([...full(7), ...Array.from({ length: 14 }, () => 2)])).toMatchObject({ month: 6, unclear: null });
  });
  it('is not the month of opening balances when those after it have fewer accounts', () => {
    expect(books([40, 12, 12, 12])).toMatchObject({ month: 3 });
  });
  it('of young books is a month with as many accounts as the ones before, whichever they are', () => {
    expect(books([5, 4])).toMatchObject({ month: 1, unclear: null });
    expect(books([40, 38, 2])).toMatchObject({ month: 1, unclear: null });
    expect(books([40, 16])).toMatchObject({ month: 0, unclear: { month: 1, posted: 16, usual: 40 } });
  });
  it('is a month in which most of the usual accounts are posted; seasonal ones are not missed', () => {
    const seasonal = Array.from({ length: 18 }, (_, month) => (month % 12 < 4 ? 40 : 25));
    expect(books(seasonal)).toMatchObject({ month: 17, unclear: null });
  });
  it('asks about a month in which a good part of them is posted', () => {
    expect(books([...full(7), 14])).toMatchObject({ month: 6, unclear: { month: 7, posted: 14, usual: 40 } });
    expect(books([...full(7), 24])).toMatchObject({ month: 7, unclear: { month: 7, posted: 24, usual: 40 } });
    expect(books([...full(7), 36])).toMatchObject({ month: 7, unclear: null });
  });
  it('is the latest closed month, and never one without postings', () => {
    expect(books([...full(8), 38], { closed: 7 })).toMatchObject({ month: 7, basis: 'closed', unclear: null });
    expect(books(full(8), { closed: 30 })).toMatchObject({ month: 7, basis: 'closed' });
  });
  it('asks where months went on without being closed', () => {
    expect(books(full(9), { closed: 2 })).toMatchObject({ month: 8, basis: 'usualAccounts', unclear: { month: 8 } });
  });
  it('is the month that was chosen until another one is proposed', () => {
    expect(books([...full(7), 14], { chosen: { month: 7, insteadOf: 6 } })).toMatchObject({ month: 7, basis: 'chosen', unclear: null });
    expect(books(full(9), { chosen: { month: 7, insteadOf: 6 } })).toMatchObject({ month: 8, basis: 'usualAccounts' });
  });
  it('is never after the as-of month, and an as-of month after it shows what is posted', () => {
    expect([4, 9, 1].map((asOf) => actualThrough({ firstPosted: at(2), lastActual: at(6) }, at(asOf)))).toEqual([4, 6, null]);
    expect(actualThrough({ firstPosted: null, lastActual: null }, at(4))).toBeNull();
    const posted = { lastActual: at(6), lastPosted: at(8) };
    expect([4, 6, 7, 9].map((asOf) => shownThrough(posted, at(asOf)))).toEqual([6, 6, 7, 8]);
  });
});
