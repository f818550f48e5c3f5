import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { LineTable, type TableLine } from '../ledger/line-table.ts';
import type { Minor } from '../money/minor.ts';
import { billGroups, billsOf, memoAt, textsAt } from './bills.ts';
import { medianOf, robustSpread } from './median.ts';
import { namedMonth } from './named-month.ts';
import { isSameDocument, repeatedBills } from './repeated-bills.ts';
import { hasDigitsSwapped, unusualAmounts } from './unusual-amounts.ts';

const line = (of: Partial<TableLine> & { readonly line: number; readonly amount: Minor }): TableLine => ({
  entry: of.line,
  day: 20_000 + of.line,
  slot: 0,
  account: 0,
  combination: 0,
  party: 3,
  source: 0,
  isDraft: false,
  isClosing: false,
  isManual: false,
  text: `E-${of.line}\t\t\t`,
  ...of,
});
const billsIn = (lines: readonly TableLine[]) => {
  const table = LineTable.of(lines);
  const bills = billsOf(
    table,
    Array.from({ length: table.count }, (_, at) => at),
  );
  return { table, bills, groups: billGroups(table, bills) };
};
const ofAmounts = (amounts: readonly number[], more: (at: number) => Partial<TableLine> = () => ({})) =>
  billsIn(amounts.map((amount, at) => line({ line: at + 1, amount: amount as Minor, ...more(at) })));

describe('the median and its deviation', () => {
  it.each([
    [[5, 1, 3], 3],
    [[4, 1, 3, 2], 2.5],
    [[7], 7],
  ])('of %j is %d', (values, median) => expect(medianOf(values)).toBe(median));
  it('of nothing is no number', () => expect([medianOf([]), robustSpread([])]).toEqual([NaN, NaN]));
  // the example of the article on the median absolute deviation in an open encyclopedia, from memory: its deviation is 1
  it('is 1 for 1, 1, 2, 2, 4, 6, 9, scaled by 1.4826', () => expect(robustSpread([1, 1, 2, 2, 4, 6, 9])).toBeCloseTo(1.4826, 4));
});

describe('bills', () => {
  it('are the lines of an entry on one account for one party', () => {
    const { table, bills, groups } = billsIn([
      line({ line: 1, entry: 1, day: 1, amount: 100 as Minor }),
      line({ line: 2, entry: 1, day: 1, amount: 50 as Minor, account: 7 }),
      line({ line: 3, entry: 1, day: 1, amount: 25 as Minor }),
      line({ line: 4, entry: 2, day: 2, amount: 9 as Minor }),
    ]);
    expect([...bills.amount]).toEqual([125, 50, 9]);
    expect(groups.map(({ account, party, bills: own }) => [account, party, [...own].map((bill) => bills.amount[bill])])).toEqual([
      [0, 3, [125, 9]],
      [7, 3, [50]],
    ]);
    expect([textsAt(table, 0).number, memoAt(table, 0)]).toEqual(['e-1', '']);
  });
  it('add up to their lines, however long the entries, and every bill is in one group', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            entry: fc.integer({ min: 1, max: 4 }),
            account: fc.nat(12),
            party: fc.integer({ min: -1, max: 3 }),
            amount: fc.integer({ min: -99, max: 99 }),
          }),
          {
            maxLength: 60,
          },
        ),
        (rows) => {
          const { table, bills, groups } = billsIn(
            rows.map((row, at) => line({ line: at + 1, day: row.entry, ...row, amount: row.amount as Minor })),
          );
          const wanted = new Map<string, number>();
          for (const { entry, account, party, amount } of rows) {
            const key = `${entry} ${account} ${party}`;
            wanted.set(key, (wanted.get(key) ?? 0) + amount);
          }
          const made = new Map(
            groups.flatMap(({ account, party, bills: own }) =>
              [...own].map((bill) => [`${table.entry[bills.first[bill]!]} ${account} ${party}`, bills.amount[bill]!]),
            ),
          );
          expect(made).toEqual(wanted);
        },
      ),
    ));
});

describe('documents', () => {
  it.each([
    ['d-4471', 'd-4471a', true],
    ['d-4471', 'd-4471-2', true],
    ['d-4471', 'd-4471', true],
    ['hf-2608', 'hf-26080', false],
    ['d-4471', 'd-4472', false],
    ['a', 'ab', false],
  ])('%s and %s: %s', (a, b, same) => expect([isSameDocument(a, b), isSameDocument(b, a)]).toEqual([same, same]));
  it('that are missing say nothing', () => expect(isSameDocument('', 'd-1')).toBeNull());
});

describe('a bill posted again', () => {
  const again = (of: readonly Partial<TableLine>[]) => {
    const { table, bills, groups } = billsIn(of.map((each, at) => line({ line: at + 1, amount: 48_900 as Minor, ...each })));
    return groups.flatMap((group) =>
      repeatedBills(table, bills, group).map(({ bill, of: first, byDocument }) => [first, bill, byDocument]),
    );
  };
  const text = (document: string) => `E\t${document}\tFreight\tHull`;
  it('has the same document, or one with a suffix', () =>
    expect(again([{ text: text('D-1') }, { text: text('D-1A'), day: 20_012 }])).toEqual([[0, 1, true]]));
  it('or the same party and amount within days', () => expect(again([{}, { day: 20_006 }])).toEqual([[0, 1, false]]));
  it('is not one of a standing charge', () => expect(again([{ day: 1 }, { day: 11 }, { day: 21 }, { day: 31 }])).toEqual([]));
  it('is not one that was taken back', () => expect(again([{}, { day: 20_004 }, { day: 20_005, amount: -48_900 as Minor }])).toEqual([]));
  it('is not the other line of one entry', () => expect(again([{ entry: 1 }, { entry: 1 }])).toEqual([]));
  it('needs a document where there is no party', () => expect(again([{ party: -1 }, { party: -1, day: 20_004 }])).toEqual([]));
});

describe('an unusual amount', () => {
  const found = (amounts: readonly number[]) => {
    const { bills, groups } = ofAmounts(amounts);
    return groups.flatMap((group) => unusualAmounts(bills, group.bills).map(({ bill, kind, usual }) => [bill, kind, usual]));
  };
  it('is about ten times the usual one', () =>
    expect(found([2100, 2300, 2214, 2050, 22_140, 2190])).toEqual([[4, 'tenfold', expect.closeTo(2202, -1)]]));
  it('or a tenth of it', () => expect(found([2100, 2300, 2214, 2050, 221, 2190])).toEqual([[4, 'tenth', expect.any(Number)]]));
  it('or a steady one with two digits changed over', () =>
    expect(found([16_310, 16_310, 16_310, 16_310, 13_610, 16_310])).toEqual([[4, 'digitsSwapped', 16_310]]));
  it('is none among amounts that differ as much anyway', () => expect(found([100, 900, 40, 5000, 220, 12_000, 60])).toEqual([]));
  it('is none among few', () => expect(found([100, 100, 1000, 100])).toEqual([]));
  it('does not depend on the unit', () =>
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1000, max: 100_000 }), { minLength: 5, maxLength: 12 }), (amounts) => {
        const kinds = (of: readonly number[]) =>
          found(of)
            .filter(([, kind]) => kind !== 'digitsSwapped')
            .map(([bill, kind]) => [bill, kind]);
        expect(kinds(amounts.map((amount) => amount * 8))).toEqual(kinds(amounts));
      }),
    ));
  it.each([
    [1234, 1324, true],
    [1234, 1234, false],
    [1234, 4231, false],
    [1234, 12_340, false],
    [1234, 1243, true],
  ])('%d and %d have two digits changed over: %s', (a, b, is) => expect(hasDigitsSwapped(a, b)).toBe(is));
});

it.each([
  ['guide payroll, august second half', { month: 8, year: null }],
  ['rent sep 2025', { month: 9, year: 2025 }],
  ['bill for may 2026', { month: 5, year: 2026 }],
  ['may be returned', null],
  ['marching band', null],
  ['august’s', { month: 8, year: null }],
  ['order of decoys', null],
  ['', null],
])('%j names %j', (text, month) => expect(namedMonth(text)).toEqual(month));
