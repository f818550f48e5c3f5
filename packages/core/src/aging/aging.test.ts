import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { type IsoDate, isoDate } from '../calendar/iso-date.ts';
import { parseDecimal } from '../money/decimal.ts';
import { type Minor } from '../money/minor.ts';
import { agingAt, estimatedAllowance } from './aging.ts';
import { bucketAt, bucketNames, DEFAULT_BUCKETS } from './buckets.ts';
import { type ControlLine, openItems } from './open-items.ts';

const date = (text: string) => text as IsoDate;
let next = 0;
const line = (amount: number, more: Partial<ControlLine> = {}): ControlLine => ({
  line: (next += 1),
  entry: next,
  date: date('2026-09-01'),
  party: 'Kelp & Keel',
  document: 'D-1',
  due: date('2026-10-01'),
  amount: amount as Minor,
  ...more,
});
const AT = { asOf: date('2026-11-09'), basis: 'due', buckets: DEFAULT_BUCKETS } as const;

describe('open items', () => {
  it('match payments by document, in part', () => {
    const [party] = openItems([line(1000), line(-400, { date: date('2026-09-20') })]);
    expect(party!.items).toMatchObject([{ original: 1000, applied: 400, open: 600 }]);
    expect(openItems([line(1000), line(-1000)])).toEqual([]);
  });
  it('leave what exceeds the document unapplied', () => {
    const [party] = openItems([line(1000), line(-900), line(-300, { date: date('2026-10-02'), document: 'D-1' })]);
    expect(party!.items).toEqual([]);
    expect(party!.unapplied).toMatchObject([{ document: 'D-1', date: '2026-10-02', amount: 200 }]);
  });
  it('match nothing without a document, and never one customer to another', () => {
    const parties = openItems([line(500, { document: '' }), line(-500, { document: '' }), line(-70, { party: 'Loon Call Lodge' })]);
    expect(parties.map(({ party, items, unapplied }) => [party, items.length, unapplied.length])).toEqual([
      ['Kelp & Keel', 1, 1],
      ['Loon Call Lodge', 0, 1],
    ]);
  });
  it('take a number used twice as two documents and pay the older first', () => {
    const [party] = openItems([line(300), line(200, { date: date('2026-10-05') }), line(-350)]);
    expect(party!.items).toMatchObject([{ date: '2026-10-05', original: 200, open: 150, isRepeated: true }]);
  });
  it('join lines of one document and date', () => {
    expect(openItems([line(300), line(200)])[0]!.items).toMatchObject([{ original: 500, isRepeated: false }]);
  });
  it('add up to the lines of every party', () => {
    const lines = fc.array(
      fc.record({
        amount: fc.integer({ min: -5000, max: 5000 }).filter((amount) => amount !== 0),
        party: fc.constantFrom('A', 'B', 'C'),
        document: fc.constantFrom('', '1', '2', '3'),
        day: fc.integer({ min: 1, max: 28 }),
      }),
      { maxLength: 40 },
    );
    fc.assert(
      fc.property(lines, (drawn) => {
        const made = drawn
          .map(({ amount, day, ...rest }) => line(amount, { ...rest, date: isoDate(2026, 9, day) }))
          .sort((a, b) => (a.date < b.date ? -1 : 1));
        const found = new Map(openItems(made).map((each) => [each.party, each]));
        for (const party of ['A', 'B', 'C']) {
          const owed = made.filter((each) => each.party === party).reduce((sum, { amount }) => sum + amount, 0);
          const { items = [], unapplied = [] } = found.get(party) ?? {};
          const held = items.reduce((sum, { open }) => sum + open, 0) - unapplied.reduce((sum, { amount }) => sum + amount, 0);
          expect(held).toBe(owed);
          for (const { open, original, applied } of items) expect([open > 0, original - applied]).toEqual([true, open]);
        }
      }),
    );
  });
});

describe('buckets', () => {
  const bucket = (due: string, more: Partial<Parameters<typeof bucketAt>[2]> = {}) =>
    bucketAt(date(due), AT.asOf, { basis: 'due', buckets: DEFAULT_BUCKETS, ...more });
  it('are not yet due on the day itself, then by thirty days', () => {
    expect(
      ['2026-11-10', '2026-11-09', '2026-11-08', '2026-10-10', '2026-10-09', '2026-08-11', '2026-08-10', '2020-01-01'].map((due) =>
        bucket(due),
      ),
    ).toEqual([0, 0, 1, 1, 2, 3, 4, 4]);
  });
  it('by document date begin with today', () => {
    const by = { basis: 'document' } as const;
    expect(['2026-11-09', '2026-10-10', '2026-10-09', '2026-07-01'].map((due) => bucket(due, by))).toEqual([0, 0, 1, 3]);
    expect(bucketNames('document', DEFAULT_BUCKETS)).toEqual(['0 to 30', '31 to 60', '61 to 90', 'Over 90']);
  });
  it('of months end on the same day, or the last of a shorter month', () => {
    const by = { basis: 'due', buckets: { unit: 'months', size: 1, count: 2 } } as const;
    expect(['2026-10-09', '2026-10-08', '2026-09-09', '2026-09-08'].map((due) => bucket(due, by))).toEqual([1, 2, 2, 3]);
    expect(bucketAt(date('2026-01-31'), date('2026-02-28'), by)).toBe(1);
    expect(bucketAt(date('2026-01-31'), date('2026-03-01'), by)).toBe(2);
    expect(bucketNames('due', by.buckets)).toEqual(['Not yet due', '1', '2', 'Over 2']);
  });
  it('have the names of the file', () => {
    expect(bucketNames('due', DEFAULT_BUCKETS)).toEqual(['Not yet due', '1 to 30', '31 to 60', '61 to 90', 'Over 90']);
  });
});

describe('an aging', () => {
  it('puts open amounts in their buckets, credits apart, and says what it had to assume', () => {
    const aging = agingAt(
      [
        line(1000),
        line(250, { document: 'D-2', due: null, date: date('2026-10-01') }),
        line(-80, { document: '', date: date('2026-10-03') }),
        line(40, { party: '', document: '' }),
        line(999, { document: 'D-9', date: date('2026-11-10') }),
      ],
      AT,
    );
    expect(aging.parties).toMatchObject([{ party: 'Kelp & Keel', buckets: [0, 0, 1250, 0, 0], credits: -80, total: 1170 }]);
    expect(aging).toMatchObject({ total: 1170, unnamed: { lines: 1, amount: 40 }, withoutDue: 1, repeated: [] });
  });
  it('counts days outstanding over the twelve months before', () => {
    const lines = [line(36_500, { date: date('2026-01-10') }), line(-29_200, { date: date('2026-03-10') })];
    const { daysOutstanding } = agingAt(lines, AT).parties[0]!;
    expect(daysOutstanding.slice(0, 11)).toEqual([73, 73, 73, 73, 73, 73, 73, 73, 365, 365, null]);
  });
  it('of nothing is nothing', () => {
    expect(agingAt([], AT)).toMatchObject({ parties: [], buckets: [0, 0, 0, 0, 0], total: 0, daysOutstanding: new Array(12).fill(null) });
  });
  it('rounds the allowance of each bucket by itself', () => {
    expect(estimatedAllowance([1050, 333, 0] as Minor[], ['0.1', '0.5', '0.9'].map(parseDecimal))).toEqual({
      byBucket: [105, 167, 0],
      total: 272,
    });
  });
});
