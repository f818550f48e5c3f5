import { type FactsDto, type GridDto, type WorksheetDto } from '@wise-margin/contract';
import {
  BUDGET_GRID_COLUMNS,
  BudgetFigures,
  type BudgetNote,
  BudgetWorksheet,
  type DimensionFilter,
  INCOME_LINES,
  type LineSet,
  minor,
  type PlacedLine,
  type WorksheetEdit,
} from '@wise-margin/core';
import { booksOfWorksheet, gridDto, packLine, unpackGrid, unpackLine, withChanges } from '@wise-margin/presentation';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { account } from '../../../../../packages/core/src/chart/small-account.ts';
import { LocalWorksheet } from './local-worksheet.ts';

const NO_FACTS: FactsDto = { combinations: [], account: [], slot: [], combination: [], amount: [] };
const line = (
  id: number,
  number: string,
  department: string,
  amount: number,
  basis: WorksheetDto['lines'][number]['basis'] = { kind: 'typed' },
) => ({
  id,
  account: number,
  dimensions: { department },
  basis,
  amounts: Array.from({ length: 12 }, () => amount),
  held: [],
  fromTotal: [],
});
const dto: WorksheetDto = {
  budget: {
    id: 1,
    name: 'Plan',
    year: 2027,
    fromYear: 2026,
    state: 'draft',
    createdAt: '',
    actor: '',
    note: '',
    copiedFrom: null,
    dimensions: ['department'],
    lineCount: 3,
    revenue: 0,
    operatingIncome: 0,
  },
  version: 1,
  lines: [
    line(1, '4000', 'North', -1000),
    line(2, '4000', 'South', -500),
    line(3, '5000', 'North', 400, { kind: 'percentOf', accounts: '4000', percent: '40' }),
  ],
  notes: [],
  steps: { undo: null, redo: null },
  books: {
    accounts: [account('4000', 'revenue'), account('5000', 'costOfSales'), account('6000', 'operatingExpenses')],
    calendar: { startMonth: 1, firstYear: 2025, lastYear: 2027, hasAdjustmentPeriod: false },
    exponent: 2,
    firstPosted: 0,
    lastActual: 23,
    actual: { combinations: [{ department: 'North' }], account: [0, 1], slot: [12, 12], combination: [0, 0], amount: [-900, 350] },
    approved: [],
    nonrecurring: { entries: NO_FACTS, months: [] },
    statistics: [],
  },
};
const books = booksOfWorksheet(dto);
const head = { year: 2027, fromYear: 2026, dimensions: ['department'] };
const positions = new Map(books.chart.accounts.map(({ number }, position) => [number, position]));

/** The other side: saves edits in the order they come, under ids of its own. */
class Saving {
  readonly worksheet = new BudgetWorksheet({ books, head, lines: dto.lines.map((each) => unpackLine(each, positions)) });
  #nextId = 100;

  save(edits: readonly WorksheetEdit[], filter: DimensionFilter) {
    const result = this.worksheet.apply(edits, filter);
    const lines = result.changes.map(({ after }): PlacedLine => {
      if (after.id > 0) return after;
      const stored = { ...after, id: this.#nextId++ };
      this.worksheet.remove(after.id);
      this.worksheet.put(stored);
      return stored;
    });
    return { lines: lines.map(packLine), notes: result.notes.length > 0 ? [...this.worksheet.notes] : null };
  }
  get cells() {
    const figures = new BudgetFigures({ books, head, lines: this.worksheet.lines, lineSet: INCOME_LINES, columnSet: BUDGET_GRID_COLUMNS });
    return gridDto(figures.grid({}), { budget: '', view: { key: '', name: '', note: '', openAll: false }, issues: [] }).cells;
  }
}
// as a page does: what is sent, and over it what changed since
type Page = { readonly grid: GridDto; readonly held: Readonly<Record<string, number>>; readonly notes: readonly BudgetNote[] };
const seen = new WeakMap<LocalWorksheet, Page>();
const pageOf = (worksheet: LocalWorksheet, filter: DimensionFilter = {}, account: string | null = null): Page => {
  const { grid, changes, held, notes } = worksheet.show({ filter, account, lineSet: null });
  const before = seen.get(worksheet);
  const now = {
    grid: grid ? unpackGrid(grid) : withChanges(before!.grid, changes),
    held: held ?? before!.held,
    notes: notes ?? before!.notes,
  };
  seen.set(worksheet, now);
  return now;
};
const gridOf = (worksheet: LocalWorksheet, filter: DimensionFilter = {}, account: string | null = null): GridDto =>
  pageOf(worksheet, filter, account).grid;
/** Months held by account, from the lines themselves. */
const heldIn = (lines: Iterable<PlacedLine>): Record<string, number> => {
  const held: Record<string, number> = {};
  for (const { account: number, months } of lines)
    months.forEach((each, index) => {
      if (each.held) held[number] = (held[number] ?? 0) | (1 << index);
    });
  return held;
};
const cellsOf = (worksheet: LocalWorksheet) => gridOf(worksheet).cells;
const month = (number: string, at: number, text: string): WorksheetEdit => ({ kind: 'month', account: number, month: at, text });

describe('a budget computed where it is edited', () => {
  it('shows an edit before it is saved, and the same after', () => {
    const [local, saving] = [new LocalWorksheet(dto), new Saving()];
    expect(cellsOf(local)).toEqual(saving.cells);
    expect(local.edit(1, [month('4000', 0, '20'), month('6000', 3, '7')], {})).toEqual([]);
    const shown = cellsOf(local);
    local.resolve(1, saving.save([month('4000', 0, '20'), month('6000', 3, '7')], {}));
    expect(cellsOf(local)).toEqual(shown);
    expect(saving.cells).toEqual(shown);
  });
  it('tells what is refused in words, and takes an edit the server refused back', () => {
    const local = new LocalWorksheet(dto);
    const before = cellsOf(local);
    expect(local.edit(1, [month('4000', 0, 'lots')], {})[0]).toMatchObject({
      account: '4000',
      message: expect.stringContaining('is not an amount') as unknown,
    });
    local.edit(2, [month('4000', 0, '99')], {});
    local.resolve(1, null);
    local.resolve(2, null);
    expect(cellsOf(local)).toEqual(before);
  });
  it('counts relative edits on their way once, over what others saved meanwhile', () => {
    const [local, saving] = [new LocalWorksheet(dto), new Saving()];
    local.edit(1, [month('4000', 0, '+10%')], { department: ['North'] });
    local.resolve(null, saving.save([month('4000', 0, '200')], { department: ['North'] }));
    const april = gridOf(local, { department: ['North'] }, '4000');
    expect(april.cells[april.lines.findIndex((each) => each.account === '4000')]![0]).toMatchObject({ value: 22_000 });
    local.resolve(1, saving.save([month('4000', 0, '+10%')], { department: ['North'] }));
    expect(cellsOf(local)).toEqual(saving.cells);
  });
  it('comes to what is saved, whatever was edited here and elsewhere, and in whatever order it was answered', () => {
    const anyEdit = fc.oneof(
      fc
        .tuple(fc.constantFrom('4000', '5000', '6000'), fc.nat(11), fc.constantFrom('10', '+5%', '*1.1', '0', '12k'))
        .map(([number, at, text]) => month(number, at, text)),
      fc
        .tuple(fc.constantFrom('4000', '6000'), fc.integer({ min: -1e5, max: 1e5 }))
        .map(([number, total]): WorksheetEdit => ({ kind: 'year', account: number, text: String(total), spread: 'even' })),
      fc.constantFrom('4000', '5000').map((number): WorksheetEdit => ({ kind: 'release', account: number, months: [0, 1, 2] })),
      fc.string({ maxLength: 5 }).map((text): WorksheetEdit => ({ kind: 'note', account: '4000', month: null, text })),
    );
    const anyFilter = fc.constantFrom<DimensionFilter>({}, { department: ['North'] }, { department: ['South'] });
    const anyStep = fc.record({
      isMine: fc.boolean(),
      edits: fc.array(anyEdit, { minLength: 1, maxLength: 3 }),
      filter: anyFilter,
      answers: fc.nat(2),
    });
    fc.assert(
      fc.property(fc.array(anyStep, { maxLength: 8 }), (steps) => {
        const [local, saving] = [new LocalWorksheet(dto), new Saving()];
        const waiting: { id: number; edits: readonly WorksheetEdit[]; filter: DimensionFilter }[] = [];
        const answer = () => {
          const next = waiting.shift();
          if (next) local.resolve(next.id, saving.save(next.edits, next.filter));
        };
        steps.forEach(({ isMine, edits, filter, answers }, id) => {
          if (isMine) {
            local.edit(id, edits, filter);
            waiting.push({ id, edits, filter });
          } else local.resolve(null, saving.save(edits, filter));
          for (let count = 0; count < answers; count += 1) answer();
          pageOf(local, filter);
        });
        while (waiting.length > 0) answer();
        const page = pageOf(local);
        expect(page.grid.cells).toEqual(saving.cells);
        expect(page.notes).toEqual([...saving.worksheet.notes]);
        expect(page.held).toEqual(heldIn(saving.worksheet.lines));
      }),
      { numRuns: 60 },
    );
  });
});

describe('what is asked without changing anything', () => {
  const local = new LocalWorksheet(dto);
  it('a basis, as a sentence with its months', () => {
    const answer = local.answer({
      kind: 'basis',
      asked: { account: '6000', filter: {}, basis: { kind: 'fixedMonths', steps: [{ from: 0, value: minor(500) }] } },
    });
    expect(answer).toMatchObject({ ok: true, preview: { sentence: '5 a month', total: 6000 } });
  });
  it('a circle that is stored, named when the budget opens, and gone once a line takes another basis', () => {
    const following = (accounts: string) => ({ kind: 'percentOf', accounts, percent: '50' }) as const;
    const lines = [line(1, '4000', 'North', -100, following('5000')), line(2, '5000', 'North', 40, following('4000'))];
    const circular = new LocalWorksheet({ ...dto, lines });
    expect(circular.show({ filter: {}, account: null, lineSet: null }).circle).toEqual(['4000', '5000', '4000']);
    circular.edit(1, [{ kind: 'basis', account: '4000', basis: { kind: 'typed' } }], {});
    expect(circular.show({ filter: {}, account: null, lineSet: null }).circle).toBeNull();
  });
  it('a basis that closes a circle, with its accounts', () => {
    const basis = { kind: 'percentOf', accounts: '5000', percent: '5' } as const;
    expect(local.answer({ kind: 'basis', asked: { account: '4000', filter: {}, basis } })).toMatchObject({
      ok: false,
      message: expect.stringContaining('each other') as unknown,
    });
  });
  it('a target, with the edits that reach it', () => {
    const answer = local.answer({ kind: 'target', asked: { line: 'revenue', target: minor(24_000), accounts: ['4000'], weights: null } });
    expect(answer).toMatchObject({
      gap: 6000,
      shares: [{ account: '4000', from: 18_000, to: 24_000 }],
      edits: [{ kind: 'year', text: '240.00' }],
    });
  });
  it('what if, line by line', () => {
    const rows = local.answer({ kind: 'whatIf', asked: { byClass: { revenue: '10' } } });
    expect(rows).toMatchObject([
      { key: 'revenue', before: 18_000, after: 19_800, difference: 1800 },
      { key: 'gross_profit', difference: 1320 },
      {},
      {},
      {},
    ]);
  });
  it('drivers there are', () => expect(local.answer({ kind: 'drivers', asked: null })).toEqual([]));
  it('leaves the budget as it was', () => expect(cellsOf(local)).toEqual(new Saving().cells));
});

describe('a budget by the rows of another line set', () => {
  const LOOK = { filter: {}, account: null } as const;
  const own: LineSet = {
    key: 'own',
    name: 'Own rows',
    percentBase: 'sales',
    lines: [
      { kind: 'accounts', key: 'goods', name: 'Goods', selection: { classes: ['costOfSales'] }, sign: 'debit' },
      { kind: 'accounts', key: 'sales', name: 'Sales', selection: { classes: ['revenue'] }, sign: 'credit' },
      {
        kind: 'accounts',
        key: 'against',
        name: 'Goods, as they lower the result',
        selection: { classes: ['costOfSales'] },
        sign: 'credit',
      },
      {
        kind: 'accounts',
        key: 'north',
        name: 'Sales of the north',
        selection: { classes: ['revenue'] },
        sign: 'credit',
        filter: { department: ['North'] },
      },
      { kind: 'formula', key: 'left', name: 'Left', expression: 'sales - goods', result: 'amount' },
    ],
  };
  const figure = (grid: GridDto, key: string) => {
    const cell =
      grid.cells[grid.lines.findIndex((line) => line.key === key)]![grid.columns.findIndex((each) => each.key === 'year.budget')]!;
    return cell.kind === 'amount' ? cell.value : null;
  };
  it('shows its order and subtotals, brought up to date by edits, and the summary as before', () => {
    const worksheet = new LocalWorksheet(dto);
    const first = worksheet.show({ ...LOOK, lineSet: own });
    const grid = unpackGrid(first.grid!);
    expect(grid.lines.filter(({ kind }) => kind !== 'account').map(({ key }) => key)).toEqual([
      'goods',
      'sales',
      'against',
      'north',
      'left',
    ]);
    expect(['sales', 'goods', 'left'].map((key) => figure(grid, key))).toEqual([18_000, 4800, 13_200]);
    expect(first.outside).toEqual([]);
    expect(first.summary).toEqual(new LocalWorksheet(dto).show({ ...LOOK, lineSet: null }).summary);
    worksheet.edit(1, [{ kind: 'month', account: '5000', month: 0, text: '10' }], {});
    const next = worksheet.show({ ...LOOK, lineSet: own });
    const now = next.grid ? unpackGrid(next.grid) : withChanges(grid, next.changes);
    expect(['sales', 'goods', 'left'].map((key) => figure(now, key))).toEqual([18_000, 5400, 12_600]);
    // and back to those of the statement, whole
    expect(unpackGrid(worksheet.show({ ...LOOK, lineSet: null }).grid!).lines.some(({ key }) => key === 'net_income')).toBe(true);
  });
  it('tells budgeted accounts that it leaves out', () => {
    const part = { ...own, lines: own.lines.slice(1, 2) };
    const worksheet = new LocalWorksheet(dto);
    expect(worksheet.show({ ...LOOK, lineSet: part }).outside).toEqual(['5000']);
    worksheet.edit(1, [{ kind: 'month', account: '6000', month: 3, text: '5' }], {});
    expect(worksheet.show({ ...LOOK, lineSet: part }).outside).toEqual(['5000', '6000']);
    expect(worksheet.show({ ...LOOK, lineSet: null }).outside).toEqual([]);
  });
  it('takes a figure in the sign of its row, and tells rows of a part of an account', () => {
    const worksheet = new LocalWorksheet(dto);
    const grid = unpackGrid(worksheet.show({ ...LOOK, lineSet: own }).grid!);
    const against = grid.lines.find(({ parent, account: number }) => parent === 'against' && number === '5000')!;
    expect([against.sign, grid.lines.find(({ parent }) => parent === 'goods')!.sign]).toEqual([-1, 1]);
    expect(grid.lines.filter(({ isPart }) => isPart).map(({ parent, account: number }) => [parent, number])).toEqual([['north', '4000']]);
    worksheet.edit(1, [{ kind: 'year', account: '5000', sign: against.sign, text: '-120', spread: 'even' }], {});
    const next = worksheet.show({ ...LOOK, lineSet: own });
    const now = next.grid ? unpackGrid(next.grid) : withChanges(grid, next.changes);
    expect(['goods', 'against'].map((key) => figure(now, key))).toEqual([12_000, -12_000]);
  });
});
