import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { dayNumber } from '../calendar/day-number.ts';
import { monthCalendar } from '../calendar/fiscal-calendar.ts';
import { account } from '../chart/small-account.ts';
import { LineTable, type TableLine } from '../ledger/line-table.ts';
import { type Minor } from '../money/minor.ts';
import { accountDetail } from './account-detail.ts';
import { accountMovements } from './account-movements.ts';
import { journalEntries } from './journals.ts';
import { partyActivity } from './party-activity.ts';
import { readRange, type ReportRange, yearsEarlier } from './read-range.ts';

const calendar = monthCalendar({ startMonth: 4, firstYear: 2025, lastYear: 2027, hasAdjustmentPeriod: true });
const chart = {
  accounts: [
    account('1000', 'cash'),
    account('3200', 'retainedEarnings'),
    account('4000', 'revenue'),
    account('6000', 'operatingExpenses'),
  ],
};
const ALL = { drafts: false };

const range = (text: string): ReportRange => {
  const read = readRange(text, calendar);
  if (!read.ok) throw new Error(`${text}: ${read.issue.code}`);
  return read.range;
};
let next = 0;
const line = (account: number, amount: number, date: string, more: Partial<TableLine> = {}): TableLine => {
  const month = (Number(date.slice(0, 4)) - 2024) * 12 + Number(date.slice(5, 7)) - 4;
  return {
    line: (next += 1),
    entry: next,
    day: dayNumber(date),
    slot: month + Math.floor(month / 12),
    account,
    amount: amount as Minor,
    combination: 0,
    party: -1,
    source: 0,
    isDraft: false,
    isClosing: false,
    isManual: false,
    text: '',
    ...more,
  };
};

describe('a range as typed', () => {
  it.each([
    ['ytd', '2026-04-01', '2026-10-31'],
    ['Year to date', '2026-04-01', '2026-10-31'],
    ['qtd', '2026-10-01', '2026-10-31'],
    ['mtd', '2026-10-01', '2026-10-31'],
    ['Apr to Oct', '2026-04-01', '2026-10-31'],
    ['nov to jan', '2026-11-01', '2027-01-31'],
    ['Oct', '2026-10-01', '2026-10-31'],
  ])('%s, seen from October 2026', (text, from, to) => {
    const asOf = calendar.periods.find(({ key }) => key === '2026-10')!.index;
    expect(readRange(text, calendar, asOf)).toMatchObject({ ok: true, range: { from, to } });
  });
  it.each([
    ['Oct 2026', '2026-10-01', '2026-10-31'],
    ['4/1/2026-10/31/2026', '2026-04-01', '2026-10-31'],
    ['Apr-Jun 2026', '2026-04-01', '2026-06-30'],
    ['2026-10', '2026-10-01', '2026-10-31'],
    ['10/2026', '2026-10-01', '2026-10-31'],
    ['Apr 2026 to Jun 2026', '2026-04-01', '2026-06-30'],
    ['april 2026 through June 2026', '2026-04-01', '2026-06-30'],
    ['2026-04..2026-06', '2026-04-01', '2026-06-30'],
    ['Q1 FY2027', '2026-04-01', '2026-06-30'],
    ['FY2027 Q4', '2027-01-01', '2027-03-31'],
    ['FY2026', '2025-04-01', '2026-03-31'],
    ['FY2026 - Q1 FY2027', '2025-04-01', '2026-06-30'],
    ['2026-10-15', '2026-04-01', '2026-10-15'],
    ['Oct 15, 2026', '2026-04-01', '2026-10-15'],
    ['10/15/2026 to 10/20/2026', '2026-10-15', '2026-10-20'],
  ])('%s is %s to %s', (text, from, to) => {
    expect(range(text)).toMatchObject({ from, to });
  });
  it.each([
    ['', 'unreadable'],
    ['soon', 'unreadable'],
    ['Feb 30, 2026', 'unreadable'],
    ['Jun 2026 to', 'unreadable'],
    ['Jun 2026 to Jul 2026 to Aug 2026', 'unreadable'],
    ['Oct 2031', 'outsideYears'],
    ['Q1 FY2031', 'outsideYears'],
    ['Jun 2026 to Apr 2026', 'reversed'],
  ])('"%s" is refused: %s', (text, code) => {
    expect(readRange(text, calendar)).toMatchObject({ ok: false, issue: { code } });
  });
  it('of whole months takes the adjustment period with its year', () => {
    expect(range('Mar 2026').slots).toEqual({ from: 24, to: 25 });
    expect(range('Mar 1, 2026 to Mar 30, 2026').slots).toBeNull();
  });
  it('a year earlier keeps ends of months', () => {
    expect(yearsEarlier(calendar, range('Feb 2026'), 1)).toMatchObject({ from: '2025-02-01', to: '2025-02-28' });
    expect(yearsEarlier(calendar, range('Oct 15, 2026'), 1)).toMatchObject({ from: '2025-04-01', to: '2025-10-15' });
    expect(yearsEarlier(calendar, range('Oct 2024'), 1)).toBeNull();
  });
});

describe('account movements', () => {
  const table = LineTable.of([
    line(0, 500, '2025-05-10'),
    line(2, -500, '2025-05-10'),
    line(3, 120, '2026-05-02'),
    line(0, -120, '2026-05-02'),
    line(0, 90, '2026-06-15'),
    line(2, -90, '2026-06-15'),
  ]);
  const of = (text: string, on = table) => accountMovements(on, { chart, range: range(text), counted: ALL });

  it('carry balance-sheet accounts and start income accounts with their fiscal year', () => {
    const { accounts, earlierYears } = of('Jun 2026');
    expect(accounts[0]).toEqual({ opening: 380, debits: 90, credits: 0, closing: 470 });
    expect(accounts[2]).toEqual({ opening: 0, debits: 0, credits: 90, closing: -90 });
    expect(accounts[3]).toEqual({ opening: 120, debits: 0, credits: 0, closing: 120 });
    expect(earlierYears).toEqual({ opening: -500, debits: 0, credits: 0, closing: -500 });
  });
  it('of days inside a month take lines by date', () => {
    expect(of('May 2, 2026 to Jun 14, 2026').accounts.map(({ closing }) => closing)).toEqual([380, 0, 0, 120]);
  });
  it('leave closing entries out of income accounts and name what they moved', () => {
    const closed = table.with({
      without: new Set(),
      added: [
        line(2, 90, '2027-03-31', { isClosing: true }),
        line(3, -120, '2027-03-31', { isClosing: true }),
        line(1, 30, '2027-03-31', { isClosing: true }),
      ],
    });
    const { accounts, earlierYears, closedThisYear } = of('FY2027', closed);
    expect(accounts.map(({ closing }) => closing)).toEqual([470, 30, -90, 120]);
    // 30 of loss is added to what earlier years left: those are moved first, and a loss moves none of a profit
    expect([earlierYears.closing, closedThisYear.closing]).toEqual([-500, -30]);
  });
  it('name a closed result as this year’s at its end, and as nothing in the next', () => {
    const closed = LineTable.of([
      line(0, 500, '2025-05-10'),
      line(2, -500, '2025-05-10'),
      line(2, 500, '2026-03-31', { isClosing: true }),
      line(1, -500, '2026-03-31', { isClosing: true }),
    ]);
    const results = (text: string) => {
      const { accounts, earlierYears, closedThisYear } = of(text, closed);
      return [accounts[1]!.closing, accounts[2]!.closing, earlierYears.closing, closedThisYear.closing];
    };
    expect(results('Mar 2026')).toEqual([-500, -500, 0, 500]);
    expect(results('Feb 2026')).toEqual([0, -500, 0, 0]);
    expect(results('Apr 2026')).toEqual([-500, 0, 0, 0]);
  });
  it('counts drafts only where they are asked for, and combinations', () => {
    const drafts = table.with({ without: new Set(), added: [line(0, 7, '2026-06-20', { isDraft: true, combination: 3 })] });
    const counted = (more: object) =>
      accountMovements(drafts, { chart, range: range('Jun 2026'), counted: { ...ALL, ...more } }).accounts[0]!.debits;
    expect([counted({}), counted({ drafts: true }), counted({ drafts: true, combinations: new Set([3]) })]).toEqual([90, 97, 7]);
  });
  it('add up to nothing, opening, movement and closing alike, whatever the ledger', () => {
    const entry = fc.record({
      from: fc.nat(3),
      to: fc.nat(3),
      amount: fc.integer({ min: 1, max: 1000 }),
      month: fc.integer({ min: 0, max: 35 }),
      isClosing: fc.boolean(),
    });
    fc.assert(
      fc.property(
        fc.array(entry, { maxLength: 25 }),
        fc.constantFrom('FY2026', 'Jun 2026', 'Jan 2026 to Jun 2026', '2026-04-10..2026-06-15'),
        (entries, text) => {
          const made = LineTable.of(
            entries.flatMap(({ from, to, amount, month, isClosing }, at) => {
              const date = `${2024 + Math.floor((month + 3) / 12)}-${String(((month + 3) % 12) + 1).padStart(2, '0')}-12`;
              return [line(to, amount, date, { isClosing, entry: at }), line(from, -amount, date, { isClosing, entry: at })];
            }),
          );
          const { accounts, earlierYears, closedThisYear } = of(text, made);
          const sum = (key: 'opening' | 'debits' | 'credits' | 'closing') =>
            [...accounts, earlierYears, closedThisYear].reduce((total, each) => total + each[key], 0);
          expect([sum('opening'), sum('debits') - sum('credits'), sum('closing')]).toEqual([0, 0, 0]);
          const detail = accountDetail(made, { chart, range: range(text), counted: ALL, accounts: [0, 1, 2, 3], idle: true });
          expect(detail.map(({ closing, balances, opening }) => (balances.at(-1) ?? opening) === closing)).toEqual([
            true,
            true,
            true,
            true,
          ]);
        },
      ),
    );
  });
});

describe('account detail', () => {
  const table = LineTable.of([
    line(0, 500, '2026-05-10'),
    line(0, -120, '2026-06-02'),
    line(0, 40, '2026-06-03'),
    line(3, 9, '2026-04-02'),
  ]);
  it('runs from the opening to the closing balance', () => {
    const [cash] = accountDetail(table, { chart, range: range('Jun 2026'), counted: ALL, accounts: [0], idle: false });
    expect(cash).toMatchObject({ opening: 500, balances: [380, 420], closing: 420 });
  });
  it('leaves accounts without movement out, or keeps them', () => {
    const of = (idle: boolean) => accountDetail(table, { chart, range: range('Jun 2026'), counted: ALL, accounts: [3, 0], idle });
    expect([of(false).map(({ account: at }) => at), of(true).map(({ account: at }) => at)]).toEqual([[0], [3, 0]]);
  });
});

it('journals are apart, each with its entries and sides', () => {
  const table = LineTable.of([
    line(0, 5, '2026-06-01', { source: 1, entry: 1 }),
    line(2, -5, '2026-06-01', { source: 1, entry: 1 }),
    line(0, 8, '2026-06-02', { entry: 2 }),
    line(0, 8, '2026-07-02', { entry: 3 }),
  ]);
  const of = (more: object) => journalEntries(table, { range: range('Jun 2026'), counted: { ...ALL, ...more } });
  expect(of({}).map(({ lines, ...rest }) => ({ ...rest, lines: lines.length }))).toEqual([
    { source: 0, entries: 1, debits: 8, credits: 0, lines: 1 },
    { source: 1, entries: 1, debits: 5, credits: 5, lines: 2 },
  ]);
  expect(of({ sources: new Set([1]) }).map(({ source }) => source)).toEqual([1]);
});

it('activity is sales by customer and purchases by vendor, without payments', () => {
  const table = LineTable.of([
    line(2, -700, '2026-06-01', { party: 0 }),
    line(2, -300, '2025-06-01', { party: 0 }),
    line(0, 700, '2026-06-09', { party: 0 }),
    line(3, 55, '2026-06-01', { party: 1 }),
    line(2, -20, '2026-06-05'),
  ]);
  const of = (kind: 'customers' | 'vendors') =>
    partyActivity(table, { chart, kind, range: range('Jun 2026'), prior: range('Jun 2025'), counted: ALL });
  expect(of('customers')).toEqual([
    { party: 0, amount: 700, prior: 300 },
    { party: -1, amount: 20, prior: 0 },
  ]);
  expect(of('vendors')).toEqual([{ party: 1, amount: 55, prior: 0 }]);
});
