import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { monthCalendar } from '../calendar/fiscal-calendar.ts';
import { readAccountsFile } from './accounts-file.ts';
import type { Entry } from './entry.ts';
import { EntryReader, type YearRule } from './entry-reader.ts';
import type { ImportIssue } from './import-issue.ts';
import { readLedgerHeader } from './ledger-layout.ts';

const HEADER = ['entry', 'date', 'account', 'debit', 'credit', 'kind', 'state', 'department'];
const accounts = new Map([
  ['1000', { index: 0, active: true }],
  ['4000', { index: 1, active: true }],
]);
const held: YearRule = {
  kind: 'held',
  calendar: monthCalendar({ startMonth: 4, firstYear: 2026, lastYear: 2027, hasAdjustmentPeriod: true }),
};

function read(rows: readonly (readonly string[])[], years: YearRule = held, header = HEADER): { entries: Entry[]; issues: ImportIssue[] } {
  const layout = readLedgerHeader(header);
  if (!layout.ok) return { entries: [], issues: [...layout.issues] };
  const entries: Entry[] = [];
  const issues: ImportIssue[] = [];
  const reader = new EntryReader({
    layout: layout.layout,
    exponent: 2,
    accounts,
    years,
    onEntry: (entry) => entries.push(entry),
    onIssue: (issue) => issues.push(issue),
  });
  rows.forEach((cells, index) => reader.push(cells, index + 2));
  reader.finish();
  return { entries, issues };
}
const pair = (entry: string, date: string, kind = '', state = ''): string[][] => [
  [entry, date, '1000', '5.00', '', kind, state, 'A'],
  [entry, date, '4000', '', '5.00', '', '', ''],
];

describe('entries', () => {
  it('carry their period, kind and state from their first row', () => {
    const { entries, issues } = read([
      ...pair('1', '2026-04-30'),
      ...pair('2', '2027-03-31', 'Adjustment'),
      ...pair('3', '2026-12-01', 'closing', 'DRAFT'),
    ]);
    expect(issues).toEqual([]);
    expect(entries.map(({ number, fiscalYear, periodNumber, kind, state }) => [number, fiscalYear, periodNumber, kind, state])).toEqual([
      ['1', 2027, 1, 'ordinary', 'posted'],
      ['2', 2027, 13, 'adjustment', 'posted'],
      ['3', 2027, 9, 'closing', 'draft'],
    ]);
    expect(entries[0]!.lines.map(({ account, amount, dimensions }) => [account, amount, dimensions])).toEqual([
      [0, 500, ['A']],
      [1, -500, ['']],
    ]);
  });
  it('keep an adjustment of another month in its month', () =>
    expect(read(pair('1', '2026-05-31', 'adjustment')).entries[0]!.periodNumber).toBe(2));
  it('skip empty rows and count them all the same', () => {
    const { entries, issues } = read([[''], ...pair('1', '2026-04-01'), [' '], ['2', '2026-04-31', '1000', '1.00', '', '', '', '']]);
    expect(entries).toHaveLength(1);
    expect(issues).toEqual([expect.objectContaining({ row: 6, code: 'impossibleDate' })]);
  });
  it('tell every fault of a row, and do not call an entry unbalanced whose rows are broken', () => {
    const { issues } = read([
      ['1', '2026-04-01', '9999', '1,5', '', 'odd', 'open', ''],
      ['1', '2026-04-01', '4000', '', '5.00', '', '', ''],
    ]);
    expect(issues.map(({ column, code }) => [column, code])).toEqual([
      ['kind', 'unknownKind'],
      ['state', 'unknownState'],
      ['account', 'unknownAccount'],
      ['debit', 'badAmount'],
    ]);
  });
  it('open years of a company without history in a bounded run', () => {
    const open: YearRule = { kind: 'open', startMonth: 4, hasAdjustmentPeriod: false, mostYears: 12 };
    const { entries, issues } = read([...pair('1', '2026-03-31'), ...pair('2', '2030-01-01'), ...pair('3', '2206-01-01')], open);
    expect(entries.map(({ fiscalYear, periodNumber }) => [fiscalYear, periodNumber])).toEqual([
      [2026, 12],
      [2030, 10],
    ]);
    expect(issues).toEqual([expect.objectContaining({ row: 6, code: 'dateOutsideYears', text: '2206-01-01' })]);
  });
  it('hand on just the balanced ones, each with its exact rows', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.array(
            fc.integer({ min: -5000, max: 5000 }).filter((amount) => amount !== 0),
            { minLength: 1, maxLength: 5 },
          ),
          { maxLength: 12 },
        ),
        fc.boolean(),
        (entriesOf, closes) => {
          const amounts = entriesOf.map((each) => (closes ? [...each, -each.reduce((sum, amount) => sum + amount, 0)] : each));
          const text = (amount: number) => (Math.abs(amount) / 100).toFixed(2);
          const rows = amounts.flatMap((each, index) =>
            each.map((amount) => [
              `E${index}`,
              '2026-04-05',
              '1000',
              amount > 0 ? text(amount) : '',
              amount > 0 ? '' : text(amount),
              '',
              '',
              '',
            ]),
          );
          const { entries, issues } = read(rows);
          const good = amounts
            .map((each, index) => ({ each, index }))
            .filter(({ each }) => each.length > 1 && each.reduce((sum, amount) => sum + amount, 0) === 0);
          expect(entries.map(({ number }) => number)).toEqual(good.map(({ index }) => `E${index}`));
          expect(entries.map(({ lines }) => lines.map(({ amount }) => amount))).toEqual(
            good.map(({ each }) => each.map((amount) => (amount === 0 ? 0 : amount))),
          );
          expect(issues).toHaveLength(amounts.length - good.length);
        },
      ),
    ));
});

describe('headers', () => {
  const codes = (header: string[]) => read([], held, header).issues.map(({ column, code }) => [column, code]);
  it.each([
    [['entry', 'date', 'account', 'debit'], [['credit', 'missingColumn']]],
    [
      ['entry', 'date', 'account', 'dr', 'cr'],
      [
        ['debit', 'similarColumn'],
        ['credit', 'similarColumn'],
      ],
    ],
    [['entry', 'date', 'account', 'amount', 'debit', 'credit'], [['amount', 'amountAndDebitCredit']]],
    [['entry', 'date', 'account', 'amount', ''], [['column 5', 'unnamedColumn']]],
    [['entry', 'Entry ', 'date', 'account', 'amount'], [['entry', 'repeatedColumn']]],
    [['', ''], [['', 'noHeader']]],
  ])('%j', (header, expected) => expect(codes(header)).toEqual(expected));
  it('match without regard to case and take other names as dimensions', () => {
    const layout = readLedgerHeader([' Entry', 'DATE', 'Account', 'Amount', 'Location', 'Project']);
    expect(layout.ok && layout.layout.dimensions.map(({ name }) => name)).toEqual(['location', 'project']);
  });
});

describe('accounts files', () => {
  it('read flags, polarity and groups in any case', () => {
    const { accounts: made, issues } = readAccountsFile(
      [
        ['Account', 'NAME', 'class', 'active', 'group', 'polarity'],
        ['1', 'One', 'cost of sales', 'NO', 'Goods', 'Neutral'],
        ['2', 'Two', 'Cash', '', '', ''],
      ],
      new Map(),
    );
    expect(issues).toEqual([]);
    expect(made).toMatchObject([
      { class: 'costOfSales', active: false, group: 'Goods', polarity: 'neutral' },
      { class: 'cash', active: true, group: null, polarity: null },
    ]);
  });
  it('say when a file has nothing in it, or warnings a column', () => {
    expect(readAccountsFile([['account', 'name', 'class']], new Map()).issues).toMatchObject([{ code: 'noRows' }]);
    expect(readAccountsFile([['account', 'class']], new Map()).issues).toMatchObject([{ code: 'missingColumn', column: 'name' }]);
  });
});
