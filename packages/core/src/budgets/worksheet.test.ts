import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { INCOME_LINES } from '../statements/shipped/income-lines.ts';
import { BUDGET_GRID_COLUMNS } from '../statements/shipped/working-columns.ts';
import type { Basis } from './basis.ts';
import type { PlacedLine } from './budget-books.ts';
import { BudgetFigures } from './budget-figures.ts';
import { rowAmount } from './budget-line.ts';
import { booksOf, fact, head, line, NORTH, positionOf, SOUTH } from './small-budget.ts';
import { BudgetWorksheet } from './worksheet.ts';
import type { WorksheetEdit } from './worksheet-edit.ts';

const TYPED: Basis = { kind: 'typed' };
const percent = (accounts: string, wholeCompany?: true): Basis => ({
  kind: 'percentOf',
  accounts,
  percent: '50',
  ...(wholeCompany ? { wholeCompany } : {}),
});
const worksheetOf = (lines: readonly PlacedLine[]) => new BudgetWorksheet({ books: booksOf({}), head, lines });
const amount = (worksheet: BudgetWorksheet, number: string, month: number, filter = {}) =>
  rowAmount(worksheet.linesOf(positionOf(number), filter), month);
const month = (account: string, at: number, text: string, together?: readonly string[]): WorksheetEdit => ({
  kind: 'month',
  account,
  month: at,
  text,
  ...(together ? { together } : {}),
});

describe('a worksheet', () => {
  it('takes what is typed in the shown sign and tells what changed', () => {
    const worksheet = worksheetOf([line(1, '4000', TYPED, -10_000)]);
    const { changes, cells, refusals } = worksheet.apply([month('4000', 2, '+5%')], {});
    expect(changes.map(({ before, after }) => [before?.months[2]!.amount, after.months[2]])).toEqual([
      [-10_000, { amount: -10_500, held: true }],
    ]);
    expect([cells, refusals]).toEqual([['1:2'], []]);
  });
  it('takes what is typed in the sign it says', () => {
    const worksheet = worksheetOf([line(1, '5000', TYPED, 100)]);
    const turned: WorksheetEdit = { kind: 'month', account: '5000', month: 0, text: '-7', sign: -1 };
    const half: WorksheetEdit = { kind: 'month', account: '5000', month: 1, text: '/2', sign: -1 };
    worksheet.apply([turned, half], {});
    expect([amount(worksheet, '5000', 0), amount(worksheet, '5000', 1)]).toEqual([700, 50]);
  });
  it('makes a line in the slice that is looked at where there was none', () => {
    const worksheet = worksheetOf([]);
    const { changes } = worksheet.apply([month('5000', 0, '75.50')], { department: ['South'] });
    expect(changes).toMatchObject([{ before: null, after: { account: '5000', dimensions: SOUTH } }]);
    expect(amount(worksheet, '5000', 0)).toBe(7550);
  });
  it('a month typed over a total’s at the same amount is by hand, and stays so when it is undone and redone', () => {
    const worksheet = worksheetOf([line(1, '6100', TYPED, 0)]);
    worksheet.apply([{ kind: 'span', account: '6100', months: [3, 4, 5], text: '0', spread: 'even' }], {});
    const { changes, notes, cells } = worksheet.apply([month('6100', 3, '0')], {});
    expect(cells).toEqual(['1:3']);
    worksheet.undo(changes, notes);
    expect(worksheet.line(1)!.months[3]).toEqual({ amount: 0, held: true, fromTotal: true });
    worksheet.redo(changes, notes);
    expect(worksheet.line(1)!.months[3]).toEqual({ amount: 0, held: true });
  });
  it('refuses what cannot be done, each with its reason, and the rest stands', () => {
    const worksheet = worksheetOf([line(1, '5000', TYPED, 100), line(2, '4000', TYPED, -100), line(3, '4900', TYPED, 40)]);
    const { refusals, changes } = worksheet.apply(
      [
        month('5000', 0, 'lots'),
        month('9999', 0, '1'),
        month('1000', 0, '1'),
        month('4000', 0, '200', ['4900']),
        month('5000', 1, '3'),
        { kind: 'basis', account: '5000', basis: percent('5000') },
      ],
      {},
    );
    expect(refusals.map(({ edit, issue }) => [edit, issue.code])).toEqual([
      [0, 'notAnAmount'],
      [1, 'unknownAccount'],
      [2, 'notBudgeted'],
      [3, 'mixedSigns'],
    ]);
    expect(changes).toHaveLength(1);
    expect(amount(worksheet, '5000', 1)).toBe(300);
  });
  it('shares a total among the accounts beneath it in proportion, to the cent', () =>
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 1e9 }), { minLength: 3, maxLength: 3 }),
        fc.integer({ min: 0, max: 1e10 }),
        ([a, b, c], total) => {
          const worksheet = worksheetOf([line(1, '5000', TYPED, a), line(2, '6000', TYPED, b), line(3, '6100', TYPED, c, SOUTH)]);
          worksheet.apply([month('5000', 4, (total / 100).toFixed(2), ['6000', '6100'])], {});
          const shares = ['5000', '6000', '6100'].map((number) => amount(worksheet, number, 4));
          expect(shares.reduce<number>((sum, share) => sum + share, 0)).toBe(total);
          if (a === 0 && b! + c! > 0) expect(shares[0]).toBe(0);
        },
      ),
    ));
  it('spreads a quarter over its free months and holds them', () => {
    const worksheet = worksheetOf([line(1, '6000', TYPED, 100)]);
    worksheet.apply([month('6000', 3, '4'), { kind: 'span', account: '6000', months: [3, 4, 5], text: '10', spread: 'even' }], {});
    expect([3, 4, 5].map((at) => amount(worksheet, '6000', at))).toEqual([400, 300, 300]);
    expect(
      worksheet
        .line(1)!
        .months.map(({ held }) => held)
        .slice(2, 7),
    ).toEqual([false, true, true, true, false]);
  });
  it('replaces what a total gave when a total is entered again, and leaves months entered by hand', () => {
    const worksheet = worksheetOf([line(1, '6000', TYPED, 100)]);
    const quarter = (text: string): WorksheetEdit => ({ kind: 'span', account: '6000', months: [3, 4, 5], text, spread: 'even' });
    const quarterNow = () => [3, 4, 5].map((at) => amount(worksheet, '6000', at));
    worksheet.apply([quarter('9')], {});
    expect(quarterNow()).toEqual([300, 300, 300]);
    expect(worksheet.apply([quarter('12')], {}).refusals).toEqual([]);
    expect(quarterNow()).toEqual([400, 400, 400]);
    worksheet.apply([month('6000', 4, '5'), quarter('9')], {});
    expect(quarterNow()).toEqual([200, 500, 200]);
    worksheet.apply([month('6000', 3, '1'), month('6000', 5, '1')], {});
    expect(worksheet.apply([quarter('9')], {}).refusals).toMatchObject([{ issue: { code: 'allMonthsHeld' } }]);
  });
  it('shares a total by history where a line is at zero, and after a slipped key', () => {
    const facts = [...Array(12).keys()].flatMap((at) => [fact('6000', 2026, at + 1, 300, NORTH), fact('6000', 2026, at + 1, 100, SOUTH)]);
    const row = (north: number, south: number) =>
      new BudgetWorksheet({
        books: booksOf({ facts, through: 23 }),
        head,
        lines: [line(1, '6000', TYPED, north, NORTH), line(2, '6000', TYPED, south, SOUTH)],
      });
    const split = (worksheet: BudgetWorksheet) => [1, 2].map((id) => worksheet.line(id)!.months[0]!.amount);
    const atZero = row(600, 0);
    atZero.apply([month('6000', 0, '8')], NO);
    expect(split(atZero)).toEqual([600, 200]);
    const slipped = row(300, 100);
    slipped.apply([month('6000', 0, '0.01')], NO);
    slipped.apply([month('6000', 0, '8')], NO);
    expect(split(slipped)).toEqual([600, 200]);
    // the budget's own proportions stay
    const own = row(100, 300);
    own.apply([month('6000', 0, '8')], NO);
    expect(split(own)).toEqual([200, 600]);
  });
  it('takes one basis for all slices of a row, and keeps notes', () => {
    const worksheet = worksheetOf([line(1, '5000', TYPED, 100), line(2, '5000', TYPED, 300, SOUTH)]);
    worksheet.apply(
      [
        { kind: 'note', account: '5000', month: 3, text: ' resin is dearer ' },
        { kind: 'note', account: '5000', month: null, text: 'by hand' },
      ],
      NO,
    );
    expect(worksheet.note('5000', NO, 3)?.text).toBe('resin is dearer');
    const { notes } = worksheet.apply([{ kind: 'note', account: '5000', month: 3, text: '' }], NO);
    expect([notes[0]!.after, worksheet.note('5000', NO, 3), [...worksheet.notes].length]).toEqual([null, null, 1]);
  });
});
const NO = {};

describe('lines that follow others', () => {
  it('are derived in chains, within their own slice or across all', () => {
    const worksheet = worksheetOf([
      line(1, '6100', percent('5000')),
      line(2, '4000', TYPED, -800),
      line(3, '5000', percent('4000')),
      line(4, '4000', TYPED, -90, SOUTH),
      line(5, '6000', percent('4000', true)),
    ]);
    const { changes } = worksheet.apply([month('4000', 0, '20', undefined)], { department: ['North'] });
    expect(changes.map(({ after }) => after.account).sort()).toEqual(['4000', '5000', '6000', '6100']);
    expect(['5000', '6100', '6000'].map((number) => amount(worksheet, number, 0))).toEqual([1000, 500, 1045]);
  });
  it('take the shape of another line', () => {
    const worksheet = worksheetOf([line(1, '4000', TYPED, 0), line(2, '6000', TYPED, 0)]);
    worksheet.apply([month('4000', 0, '30'), month('4000', 1, '10')], {});
    worksheet.apply([{ kind: 'year', account: '6000', text: '8', spread: { by: 'line', accounts: '4000' } }], {});
    expect([0, 1, 2].map((at) => amount(worksheet, '6000', at))).toEqual([600, 200, 0]);
    worksheet.apply([month('4000', 1, '30')], {});
    expect([0, 1, 2].map((at) => amount(worksheet, '6000', at))).toEqual([400, 400, 0]);
  });
  it('that lead back to themselves are refused with their accounts, and nothing changes', () => {
    const worksheet = worksheetOf([line(1, '5000', percent('4000')), line(2, '4000', TYPED, -800)]);
    const { refusals, changes } = worksheet.apply([{ kind: 'basis', account: '4000', basis: percent('5000') }], {});
    expect(refusals).toMatchObject([{ issue: { code: 'circle', accounts: expect.arrayContaining(['4000', '5000']) as unknown } }]);
    expect([changes, worksheet.line(2)!.basis]).toEqual([[], TYPED]);
  });
});

describe('amounts past what can be held exactly', () => {
  const full = () => worksheetOf([line(1, '5000', TYPED, 100), line(2, '6000', TYPED, 100)]);
  it('are refused one by one where the whole budget would pass it, and the rest stands', () => {
    const worksheet = full();
    const most = '80000000000000';
    const { refusals } = worksheet.apply([month('5000', 0, most), month('6000', 1, most), month('5000', 1, '7')], {});
    expect(refusals).toEqual([{ edit: 1, account: '6000', text: most, issue: { code: 'budgetTooLarge' } }]);
    expect([amount(worksheet, '5000', 0), amount(worksheet, '5000', 1), amount(worksheet, '6000', 1)]).toEqual([
      8_000_000_000_000_000, 700, 100,
    ]);
    // room that was given back can be used again
    expect(worksheet.apply([month('5000', 0, '1'), month('6000', 1, most)], {}).refusals).toEqual([]);
  });
  it('are refused where a basis makes them', () => {
    const basis: Basis = {
      kind: 'driverRate',
      driver: { name: 'Units', months: Array.from({ length: 12 }, () => 1e12) },
      rates: [{ from: 0, value: '1000000' }],
      unit: 100,
    };
    const worksheet = full();
    expect(worksheet.apply([{ kind: 'basis', account: '5000', basis }], {}).refusals[0]!.issue.code).toBe('budgetTooLarge');
    expect(amount(worksheet, '5000', 0)).toBe(100);
  });
  it('are refused where lines that follow would make them, and nothing of the change stands but notes', () => {
    const worksheet = worksheetOf([
      line(1, '5000', { kind: 'percentOf', accounts: '6000', percent: '900' }, 900),
      line(2, '6000', TYPED, 100),
    ]);
    const note: WorksheetEdit = { kind: 'note', account: '6000', month: null, text: 'Kept' };
    const { refusals, notes } = worksheet.apply([month('6000', 0, '20000000000000'), note], {});
    expect(refusals.map(({ edit, issue }) => [edit, issue.code])).toEqual([[0, 'budgetTooLarge']]);
    expect([amount(worksheet, '6000', 0), amount(worksheet, '5000', 0), notes.length]).toEqual([100, 900, 1]);
  });
});

describe('a batch with a circle in it', () => {
  it('refuses each edit that closes it, and takes the rest with its notes', () => {
    const worksheet = worksheetOf([line(1, '5000', percent('4000'), 400), line(2, '4000', TYPED, -800), line(3, '6000', TYPED, 10)]);
    const { refusals, changes, notes } = worksheet.apply(
      [
        month('6000', 1, '7'),
        { kind: 'basis', account: '4000', basis: percent('5000') },
        month('6000', 2, 'lots'),
        { kind: 'note', account: '6000', month: null, text: 'kept' },
      ],
      {},
    );
    expect(refusals.map(({ edit, account, issue }) => [edit, account, issue.code])).toEqual([
      [1, '4000', 'circle'],
      [2, '6000', 'notAnAmount'],
    ]);
    expect([amount(worksheet, '6000', 1), worksheet.line(2)!.basis, changes.length, notes.length]).toEqual([700, TYPED, 1, 1]);
  });
  it('counts edits over all slices of one change', () => {
    const worksheet = worksheetOf([line(1, '5000', TYPED, 100), line(2, '5000', TYPED, 300, SOUTH)]);
    const { refusals, changes } = worksheet.applyAll([
      { edits: [month('5000', 0, '1'), month('5000', 1, '2')], filter: { department: ['North'] } },
      { edits: [month('5000', 0, 'x'), month('5000', 1, '4')], filter: { department: ['South'] } },
    ]);
    expect(refusals.map(({ edit }) => edit)).toEqual([2]);
    expect(changes.map(({ before, after }) => [before!.months[1]!.amount, after.months[1]!.amount])).toEqual([
      [100, 200],
      [300, 400],
    ]);
  });
});

describe('a change taken back', () => {
  const anyEdit = fc.oneof(
    fc.record({
      kind: fc.constant('month' as const),
      account: fc.constantFrom('4000', '5000', '6000'),
      month: fc.nat(11),
      text: anyText(),
    }),
    fc.record({
      kind: fc.constant('year' as const),
      account: fc.constantFrom('4000', '6000'),
      text: anyText(),
      spread: fc.constantFrom('even' as const, 'workingDays' as const),
    }),
    fc.record({
      kind: fc.constant('release' as const),
      account: fc.constantFrom('4000', '5000'),
      months: fc.subarray([0, 5, 11], { minLength: 1 }),
    }),
  );
  function anyText() {
    return fc.oneof(fc.integer({ min: -1e6, max: 1e6 }).map(String), fc.constantFrom('+5%', '*1.1', '/3', '12k'));
  }
  const lines = () => [
    line(1, '4000', TYPED, -700),
    line(2, '5000', percent('4000'), 350),
    line(3, '6000', TYPED, 12),
    line(4, '4000', TYPED, -5, SOUTH),
  ];
  const state = (worksheet: BudgetWorksheet) =>
    [...worksheet.lines].map(({ id, basis, months }) => ({ id, basis, months })).sort((a, b) => a.id - b.id);

  it('leaves the budget as it was before, whatever was changed; made again, as it was after', () =>
    fc.assert(
      fc.property(fc.array(anyEdit, { minLength: 1, maxLength: 6 }), (edits) => {
        const worksheet = worksheetOf(lines());
        const before = state(worksheet);
        const { changes, notes } = worksheet.apply(edits, {});
        const after = state(worksheet);
        worksheet.undo(changes, notes);
        expect(state(worksheet)).toEqual(before);
        worksheet.redo(changes, notes);
        expect(state(worksheet)).toEqual(after);
      }),
    ));
  it('leaves what another changed since', () => {
    const worksheet = worksheetOf(lines());
    const { changes, notes } = worksheet.apply([month('6000', 0, '5'), month('6000', 1, '6')], {});
    worksheet.apply([month('6000', 1, '99')], {});
    const { notUndone } = worksheet.undo(changes, notes);
    expect([amount(worksheet, '6000', 0), amount(worksheet, '6000', 1), notUndone]).toEqual([12, 9900, 1]);
  });
  it('leaves a note that another wrote since', () => {
    const worksheet = worksheetOf(lines());
    const note = (text: string) => ({ kind: 'note' as const, account: '6000', month: null, text });
    const { changes, notes } = worksheet.apply([note('Mine')], {});
    worksheet.apply([note('Theirs')], {});
    expect(worksheet.undo(changes, notes).notUndone).toBe(1);
    expect(worksheet.note('6000', {}, null)?.text).toBe('Theirs');
  });
});

describe('the figures of a budget', () => {
  it('brought up to date line by line are those computed from the lines at once', () =>
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom('4000', '5000', '6000', '6100'), fc.nat(11), fc.integer({ min: -1e7, max: 1e7 })), {
          maxLength: 8,
        }),
        (typed) => {
          const books = booksOf({});
          const options = { books, head, lineSet: INCOME_LINES, columnSet: BUDGET_GRID_COLUMNS };
          const lines = [line(1, '4000', TYPED, -700), line(2, '5000', percent('4000')), line(3, '6000', TYPED, 12, SOUTH)];
          const worksheet = new BudgetWorksheet({ books, head, lines });
          const figures = new BudgetFigures({ ...options, lines });
          for (const [account, at, value] of typed) {
            figures.accept(worksheet.apply([month(account, at, String(value / 100))], NORTH_ONLY).changes);
            const fresh = new BudgetFigures({ ...options, lines: worksheet.lines });
            for (const filter of [{}, NORTH_ONLY]) expect(figures.grid(filter).cells).toEqual(fresh.grid(filter).cells);
          }
        },
      ),
      { numRuns: 30 },
    ));
  it('keep the rows that an edit does not reach', () => {
    const books = booksOf({});
    const lines = [line(1, '4000', TYPED, -700), line(2, '6000', TYPED, 100), line(3, '6100', TYPED, 50)];
    const worksheet = new BudgetWorksheet({ books, head, lines });
    const figures = new BudgetFigures({ books, head, lines, lineSet: INCOME_LINES, columnSet: BUDGET_GRID_COLUMNS });
    const before = figures.grid({});
    figures.accept(worksheet.apply([month('6000', 2, '120')], NORTH_ONLY).changes);
    const after = figures.grid({});
    const changed = after.plan.lines.filter(({ index }) => after.cells[index] !== before.cells[index]).map(({ key }) => key);
    expect(changed).toEqual(expect.arrayContaining(['operating_expenses', 'operating_income', 'net_income']));
    expect(changed.some((key) => key.endsWith('6100') || key === 'revenue' || key === 'gross_profit')).toBe(false);
    expect(figures.grid({})).toBe(after);
  });
  it('add the months to quarters and the year', () => {
    const books = booksOf({});
    const lines = [line(1, '6000', TYPED, 100)];
    const grid = new BudgetFigures({ books, head, lines, lineSet: INCOME_LINES, columnSet: BUDGET_GRID_COLUMNS }).grid({});
    const row = grid.cells[grid.plan.lineOfKey.get('operating_expenses')!]!;
    const value = (key: string) => row[grid.plan.columns.findIndex((column) => column.key === key)];
    expect(value('year.budget')).toMatchObject({ value: 1200 });
    expect(grid.plan.columns.filter(({ key }) => key.startsWith('quarters.')).map(({ key }) => value(key))).toEqual(
      Array.from({ length: 4 }, () => expect.objectContaining({ value: 300 }) as unknown),
    );
    expect(value('year.prior')).toMatchObject({ kind: 'blank' });
  });
});
const NORTH_ONLY = { department: [NORTH['department']!] };
