import { describe, expect, it } from 'vitest';

import { monthCalendar } from '../calendar/fiscal-calendar.ts';
import { account } from '../chart/small-account.ts';
import { LARGEST_MINOR, type Minor } from '../money/minor.ts';
import { type EntryContent, entryDifferences, entryIssues, type LineContent, periodOfEntry } from './entry-content.ts';

const chart = {
  accounts: [account('1000', 'cash'), account('6000', 'operatingExpenses'), account('6010', 'operatingExpenses', { active: false })],
};
const calendar = monthCalendar({ startMonth: 4, firstYear: 2026, lastYear: 2027, hasAdjustmentPeriod: true });
const line = (number: string, amount: number, more: Partial<LineContent> = {}): LineContent => ({
  account: number,
  amount: amount as Minor,
  dimensions: {},
  memo: '',
  party: '',
  document: '',
  due: null,
  ...more,
});
const entry = (more: Partial<EntryContent> = {}): EntryContent => ({
  date: '2026-10-06',
  source: 'purchases',
  kind: 'ordinary',
  state: 'posted',
  lines: [line('6000', 500), line('1000', -500)],
  ...more,
});
const codes = (of: EntryContent, before?: EntryContent) =>
  entryIssues(of, { chart, calendar }, before).map(({ line: at, field, code }) => [at, field, code]);

describe('what keeps an entry from being posted', () => {
  it('is nothing for an entry that balances on active accounts within the years', () => expect(codes(entry())).toEqual([]));

  it.each<[string, Partial<EntryContent>, unknown[]]>([
    ['a date that is none', { date: '2026-02-30' }, [[null, 'date', 'impossibleDate']]],
    ['a date outside the years', { date: '2027-04-01' }, [[null, 'date', 'dateOutsideYears']]],
    ['no lines', { lines: [] }, [[null, 'lines', 'tooFewLines']]],
    ['an account that is not there', { lines: [line('600', 5), line('1000', -5)] }, [[0, 'account', 'unknownAccount']]],
    ['an inactive account', { lines: [line('6010', 5), line('1000', -5)] }, [[0, 'account', 'inactiveAccount']]],
    [
      'no amount',
      { lines: [line('6000', 0), line('1000', 0)] },
      [
        [0, 'amount', 'zeroAmount'],
        [1, 'amount', 'zeroAmount'],
      ],
    ],
    ['a difference', { lines: [line('6000', 5), line('1000', -4)] }, [[null, 'lines', 'unbalanced']]],
    ['a due date that is none', { lines: [line('6000', 5, { due: 'soon' }), line('1000', -5)] }, [[0, 'due', 'impossibleDate']]],
    [
      'amounts past what is exact',
      { lines: [line('6000', LARGEST_MINOR + 2), line('1000', -LARGEST_MINOR - 2)] },
      [
        [0, 'amount', 'tooLarge'],
        [1, 'amount', 'tooLarge'],
      ],
    ],
  ])('is %s', (_, more, issues) => expect(codes(entry(more))).toEqual(issues));

  it('is everything at once', () =>
    expect(codes(entry({ date: 'x', lines: [line('9', 0)] }))).toEqual([
      [null, 'date', 'impossibleDate'],
      [null, 'lines', 'tooFewLines'],
      [0, 'account', 'unknownAccount'],
      [0, 'amount', 'zeroAmount'],
    ]));

  it('is not an inactive account the entry stood on before', () => {
    const before = entry({ lines: [line('6010', 500), line('1000', -500)] });
    expect(codes({ ...before, date: '2026-10-07' }, before)).toEqual([]);
  });

  it('names what an unbalanced entry lacks, and accounts near an unknown one', () => {
    expect(entryIssues(entry({ lines: [line('6000', 5), line('1000', -4)] }), { chart, calendar })[0]).toMatchObject({ difference: 1 });
    expect(entryIssues(entry({ lines: [line('600', 5), line('1000', -5)] }), { chart, calendar })[0]!.near).toContain('6000');
  });
});

describe('what a correction changes', () => {
  it('is told field by field, lines place by place', () => {
    const before = entry({ lines: [line('6000', 500, { dimensions: { department: 'Store' } }), line('1000', -500)] });
    const after = entry({
      date: '2026-10-07',
      lines: [line('6000', 400, { dimensions: { department: 'Tours' }, memo: 'Rent' }), line('1000', -500), line('6000', 100)],
    });
    expect(entryDifferences(before, after)).toEqual([
      { line: 0, field: 'date', from: '2026-10-06', to: '2026-10-07' },
      { line: 1, field: 'amount', from: 500, to: 400 },
      { line: 1, field: 'memo', from: '', to: 'Rent' },
      { line: 1, field: 'department', from: 'Store', to: 'Tours' },
      { line: 3, field: 'account', from: null, to: '6000' },
      { line: 3, field: 'amount', from: null, to: 100 },
    ]);
  });

  it('is nothing between an entry and itself, nor where a value was empty and is absent', () => {
    expect(entryDifferences(entry(), entry())).toEqual([]);
    const before = entry({ lines: [line('6000', 5, { dimensions: { department: '' } }), line('1000', -5)] });
    expect(entryDifferences(before, entry({ lines: [line('6000', 5), line('1000', -5)] }))).toEqual([]);
  });
});

describe('the period of an entry', () => {
  it.each([
    ['2026-03-31', 'ordinary', { year: 2026, number: 12 }],
    ['2026-03-31', 'adjustment', { year: 2026, number: 13 }],
    ['2026-04-01', 'adjustment', { year: 2027, number: 1 }],
  ] as const)('of %s, %s', (date, kind, period) => expect(periodOfEntry({ date, kind }, calendar)).toMatchObject(period));
  it('is none outside the years', () => expect(periodOfEntry({ date: '2030-01-01', kind: 'ordinary' }, calendar)).toBeNull());
});
