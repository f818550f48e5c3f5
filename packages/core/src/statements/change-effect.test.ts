import { describe, expect, it } from 'vitest';

import { monthCalendar, type Slot } from '../calendar/fiscal-calendar.ts';
import { account } from '../chart/small-account.ts';
import type { BalanceFact } from '../ledger/balance-cube.ts';
import type { Minor } from '../money/minor.ts';
import { changeEffect } from './change-effect.ts';

const chart = {
  accounts: [
    account('1000', 'cash'),
    account('4000', 'revenue'),
    account('6000', 'operatingExpenses'),
    account('6100', 'operatingExpenses'),
  ],
};
const calendar = monthCalendar({ startMonth: 1, firstYear: 2026, lastYear: 2026, hasAdjustmentPeriod: true });
const fact = (of: number, slot: number, amount: number): BalanceFact => ({
  account: of,
  slot: slot as Slot,
  combination: {},
  layer: 'ordinary',
  amount: amount as Minor,
});
const lineOf = (effect: ReturnType<typeof changeEffect>, name: string) =>
  effect.lines.filter(({ line }) => line === name).map(({ period, change }) => [period, change]);

describe('what a change of postings does', () => {
  it('between expenses leaves every total alone', () => {
    const effect = changeEffect([fact(2, 3, -500), fact(3, 3, 500)], { chart, calendar });
    expect(effect.accounts.map(({ account: at, period, change }) => [at, period, change])).toEqual([
      [2, 3, -500],
      [3, 3, 500],
    ]);
    expect(lineOf(effect, 'Operating income')).toEqual([]);
    expect(lineOf(effect, 'Net income')).toEqual([]);
  });

  it('of an expense paid moves income and cash by as much, in the shown signs', () => {
    const effect = changeEffect([fact(2, 3, 500), fact(0, 3, -500)], { chart, calendar });
    expect(lineOf(effect, 'Net income')).toEqual([[3, -500]]);
    expect(effect.lines.filter(({ statement, line }) => statement === 'Balance sheet' && line === 'Total assets')).toMatchObject([
      { change: -500 },
    ]);
  });

  it('between months shows in both; the balance only until it is made good', () => {
    const effect = changeEffect([fact(2, 3, -500), fact(0, 3, 500), fact(2, 5, 500), fact(0, 5, -500)], { chart, calendar });
    expect(lineOf(effect, 'Net income')).toEqual([
      [3, 500],
      [5, -500],
    ]);
    expect(lineOf(effect, 'Total assets')).toEqual([[3, 500]]);
  });

  it('in the adjustment period counts with the last month', () =>
    expect(lineOf(changeEffect([fact(2, 12, 500), fact(0, 12, -500)], { chart, calendar }), 'Net income')).toEqual([[11, -500]]));

  it('is nothing when nothing changes', () => {
    expect(changeEffect([], { chart, calendar })).toEqual({ accounts: [], lines: [] });
    expect(changeEffect([fact(2, 3, 500), fact(2, 3, -500)], { chart, calendar })).toEqual({ accounts: [], lines: [] });
  });
});
