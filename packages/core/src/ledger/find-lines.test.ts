import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import type { Minor } from '../money/minor.ts';
import { findLines, type LineQuery, lineTotals, sortLines } from './find-lines.ts';
import { LineTable, type TableLine } from './line-table.ts';

const line = (of: Partial<TableLine> & { readonly line: number }): TableLine => ({
  entry: of.line,
  day: 20_000,
  slot: 0,
  account: 0,
  amount: 100 as Minor,
  combination: 0,
  party: -1,
  source: 0,
  isDraft: false,
  isClosing: false,
  isManual: false,
  text: '',
  ...of,
});
const found = (table: LineTable, query: LineQuery): number[] => [...findLines(table, query)].map((position) => table.line[position]!);

describe('lines of a ledger', () => {
  const table = LineTable.of([
    line({ line: 4, entry: 2, day: 20_005, amount: -25_000 as Minor, account: 3, text: 'PU-2\tD-77\tFreight in\tHull Carriers' }),
    line({ line: 3, entry: 2, day: 20_005, amount: 25_000 as Minor, account: 1, party: 4, text: 'PU-2\tD-77\tFreight in' }),
    line({ line: 1, entry: 1, day: 20_001, amount: 900 as Minor, isDraft: true, text: 'PU-1\t\tCoffee' }),
    line({ line: 2, entry: 1, day: 20_001, amount: -900 as Minor, source: 2, isManual: true, text: 'PU-1\t\tCoffee' }),
  ]);

  it('stand in order of date, then as they were entered', () => expect(found(table, {})).toEqual([1, 2, 3, 4]));

  it.each([
    [{ days: { from: 20_002, to: 20_005 } }, [3, 4]],
    [{ days: { from: 20_006, to: 20_010 } }, []],
    [{ days: { from: 20_005, to: 20_001 } }, []],
    [{ least: 900, most: 900 }, [1, 2]],
    [{ least: 901 }, [3, 4]],
    [{ accounts: new Set([1, 9]) }, [3]],
    [{ accounts: new Set<number>() }, []],
    [{ parties: new Set([-1]) }, [1, 2, 4]],
    [{ sources: new Set([2]) }, [2]],
    [{ state: 'draft' as const }, [1]],
    [{ origin: 'manual' as const }, [2]],
    [{ text: 'freight HULL' }, [4]],
    [{ text: '  ' }, [1, 2, 3, 4]],
    [{ text: 'pu-2\tD-77' }, [3, 4]],
    [{ text: 'freight coffee' }, []],
  ])('found by %j', (query, lines) => expect(found(table, query)).toEqual(lines));

  it('are added up: both sides, and the entries they belong to', () => {
    expect(lineTotals(table, findLines(table, {}))).toEqual({ lines: 4, entries: 2, debits: 25_900, credits: 25_900 });
    expect(lineTotals(table, findLines(table, { text: 'tea' }))).toEqual({ lines: 0, entries: 0, debits: 0, credits: 0 });
  });

  it('are sorted; those that are alike stay in order of date', () => {
    const sorted = (by: 'amount' | 'party' | 'date', descending: boolean) =>
      [...sortLines(table, findLines(table, {}), { by, descending })].map((position) => table.line[position]!);
    expect(sorted('amount', false)).toEqual([4, 2, 1, 3]);
    expect(sorted('amount', true)).toEqual([3, 1, 2, 4]);
    expect(sorted('party', true)).toEqual([3, 4, 2, 1]);
    expect(sorted('date', true)).toEqual([4, 3, 2, 1]);
    expect([...sortLines(table, new Int32Array(), { by: 'amount', descending: true })]).toEqual([]);
  });

  it('are sorted alike when there are many', () => {
    const many = LineTable.of(
      Array.from({ length: 60_000 }, (_, index) => line({ line: index + 1, amount: ((index * 7919) % 1000) as Minor, account: index % 7 })),
    );
    const positions = findLines(many, { least: 1 });
    for (const by of ['amount', 'account'] as const)
      for (const descending of [false, true]) {
        const plain = [...positions].sort((a, b) => many[by][a]! - many[by][b]! || a - b);
        expect([...sortLines(many, positions, { by, descending })]).toEqual(descending ? plain.reverse() : plain);
      }
  });

  it('change with their entries', () => {
    const after = table.with({
      without: new Set([1]),
      added: [line({ line: 1, entry: 1, day: 20_005, text: 'PU-1\t\tTea' }), line({ line: 9, entry: 5, day: 19_999 })],
    });
    expect(found(after, {})).toEqual([9, 1, 3, 4]);
    expect(found(after, { text: 'tea' })).toEqual([1]);
    expect(found(after, { text: 'coffee' })).toEqual([]);
    expect(found(after, { text: 'hull' })).toEqual([4]);
    expect(found(LineTable.of([]).with({ without: new Set([1]), added: [] }), {})).toEqual([]);
  });
});

describe('any query', () => {
  const anyLine = fc.record({
    entry: fc.integer({ min: 1, max: 5 }),
    day: fc.integer({ min: 20_000, max: 20_004 }),
    slot: fc.integer({ min: 0, max: 3 }),
    account: fc.integer({ min: 0, max: 3 }),
    amount: fc.integer({ min: -300, max: 300 }).map((amount) => amount as Minor),
    combination: fc.integer({ min: 0, max: 2 }),
    party: fc.integer({ min: -1, max: 2 }),
    source: fc.integer({ min: 0, max: 1 }),
    isDraft: fc.boolean(),
    isClosing: fc.boolean(),
    isManual: fc.boolean(),
    text: fc.constantFrom('Freight\tD-1', 'freight D-10', 'Rent', '', 'Rent D-1\nx'),
  });
  const set = (least: number) => fc.uniqueArray(fc.integer({ min: least, max: 3 })).map((values) => new Set(values));
  const range = (least: number) =>
    fc.record({ from: fc.integer({ min: least, max: least + 4 }), to: fc.integer({ min: least, max: least + 4 }) });
  const anyQuery = fc.record(
    {
      days: range(20_000),
      slots: range(0),
      accounts: set(0),
      combinations: set(0),
      parties: set(-1),
      sources: set(0),
      least: fc.integer({ min: 0, max: 200 }),
      most: fc.integer({ min: 0, max: 300 }),
      text: fc.constantFrom('freight', 'D-1', 'rent d-1', 'x', ''),
      origin: fc.constantFrom('import' as const, 'manual' as const),
      state: fc.constantFrom('posted' as const, 'draft' as const),
    },
    { requiredKeys: [] },
  );
  const passes = (query: LineQuery, each: TableLine): boolean =>
    (!query.days || (each.day >= query.days.from && each.day <= query.days.to)) &&
    (!query.slots || (each.slot >= query.slots.from && each.slot <= query.slots.to)) &&
    (query.accounts?.has(each.account) ?? true) &&
    (query.combinations?.has(each.combination) ?? true) &&
    (query.parties?.has(each.party) ?? true) &&
    (query.sources?.has(each.source) ?? true) &&
    Math.abs(each.amount) >= (query.least ?? 0) &&
    Math.abs(each.amount) <= (query.most ?? Infinity) &&
    (query.text ?? '')
      .toLowerCase()
      .split(' ')
      .every((word) => each.text.toLowerCase().includes(word)) &&
    (query.origin === undefined || each.isManual === (query.origin === 'manual')) &&
    (query.state === undefined || each.isDraft === (query.state === 'draft'));

  it('finds the lines that looking at each one finds, also when entries changed', () => {
    fc.assert(
      fc.property(fc.array(anyLine, { maxLength: 30 }), anyQuery, fc.integer({ min: 1, max: 5 }), (rows, query, entry) => {
        const lines = rows.map((row, index) => ({ ...row, line: index + 1 }));
        const plain = (of: readonly TableLine[]) =>
          [...of]
            .sort((a, b) => a.day - b.day || a.entry - b.entry || a.line - b.line)
            .filter((each) => passes(query, each))
            .map((each) => each.line);
        const table = LineTable.of(lines);
        expect(found(table, query)).toEqual(plain(lines));
        expect(found(LineTable.of([...lines].reverse()), query)).toEqual(plain(lines));
        const moved = lines.filter((each) => each.entry === entry).map((each) => ({ ...each, day: each.day + 1, text: 'Rent' }));
        const others = lines.filter((each) => each.entry !== entry);
        expect(found(table.with({ without: new Set([entry]), added: moved }), query)).toEqual(plain([...others, ...moved]));
      }),
      { seed: 13, numRuns: 400 },
    );
  });
});
