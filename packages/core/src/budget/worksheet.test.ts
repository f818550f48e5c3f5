import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { BUDGET_GRID_COLUMNS } from '../statement/shipped/working-columns.ts';
import { INCOME_LINES } from '../statement/shipped/income-lines.ts';
import type { Basis } from './basis.ts';
import type { PlacedLine } from './budget-books.ts';
import { rowAmount } from './budget-line.ts';
import { BudgetDesk } from './worksheet.ts';
import type { DeskEdit } from './worksheet-edit.ts';
import { BudgetFigures } from './budget-figures.ts';
import { booksOf, fact, head, line, NORTH, positionOf, SOUTH } from './small-budget.ts';

const TYPED: Basis = { kind: 'typed' };
const percent = (accounts: string, everywhere?: true): Basis => ({
  kind: 'percentOf',
  accounts,
  percent: '50',
  ...(everywhere ? { everywhere } : {}),
});
const deskOf = (lines: readonly PlacedLine[]) => new BudgetDesk({ books: booksOf({}), head, lines });
const amount = (desk: BudgetDesk, number: string, month: number, filter = {}) => rowAmount(desk.linesOf(positionOf(number), filter), month);
const month = (account: string, at: number, text: string, together?: readonly string[]): DeskEdit => ({
  kind: 'month',
  account,
  month: at,
  text,
  ...(together ? { together } : {}),
});

describe('a desk', () => {
  it('takes what is typed in the shown sign and tells what changed', () => {
    const desk = deskOf([line(1, '4000', TYPED, -10_000)]);
    const { changes, cells, refusals } = desk.apply([month('4000', 2, '+5%')], {});
    expect(changes.map(({ before, after }) => [before?.months[2]!.amount, after.months[2]])).toEqual([
      [-10_000, { amount: -10_500, held: true }],
    ]);
    expect([cells, refusals]).toEqual([['1:2'], []]);
  });
  it('takes what is typed in the sign it says', () => {
    const desk = deskOf([line(1, '5000', TYPED, 100)]);
    const turned: DeskEdit = { kind: 'month', account: '5000', month: 0, text: '-7', sign: -1 };
    const half: DeskEdit = { kind: 'month', account: '5000', month: 1, text: '/2', sign: -1 };
    desk.apply([turned, half], {});
    expect([amount(desk, '5000', 0), amount(desk, '5000', 1)]).toEqual([700, 50]);
  });
  it('makes a line in the slice that is looked at where there was none', () => {
    const desk = deskOf([]);
    const { changes } = desk.apply([month('5000', 0, '75.50')], { department: ['South'] });
    expect(changes).toMatchObject([{ before: null, after: { account: '5000', dimensions: SOUTH } }]);
    expect(amount(desk, '5000', 0)).toBe(7550);
  });
  it('a month typed over a total’s at the same amount is by hand, and stays so when it is undone and redone', () => {
    const desk = deskOf([line(1, '6100', TYPED, 0)]);
    desk.apply([{ kind: 'span', account: '6100', months: [3, 4, 5], text: '0', spread: 'even' }], {});
    const { changes, notes, cells } = desk.apply([month('6100', 3, '0')], {});
    expect(cells).toEqual(['1:3']);
    desk.revert(changes, notes);
    expect(desk.line(1)!.months[3]).toEqual({ amount: 0, held: true, fromTotal: true });
    desk.remake(changes, notes);
    expect(desk.line(1)!.months[3]).toEqual({ amount: 0, held: true });
  });
  it('refuses what cannot be done, each with its reason, and the rest stands', () => {
    const desk = deskOf([line(1, '5000', TYPED, 100), line(2, '4000', TYPED, -100), line(3, '4900', TYPED, 40)]);
    const { refusals, changes } = desk.apply(
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
    expect(amount(desk, '5000', 1)).toBe(300);
  });
  it('shares a total among the accounts beneath it in proportion, to the cent', () =>
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 1e9 }), { minLength: 3, maxLength: 3 }),
        fc.integer({ min: 0, max: 1e10 }),
        ([a, b, c], total) => {
          const desk = deskOf([line(1, '5000', TYPED, a), line(2, '6000', TYPED, b), line(3, '6100', TYPED, c, SOUTH)]);
          desk.apply([month('5000', 4, (total / 100).toFixed(2), ['6000', '6100'])], {});
          const shares = ['5000', '6000', '6100'].map((number) => amount(desk, number, 4));
          expect(shares.reduce<number>((sum, share) => sum + share, 0)).toBe(total);
          if (a === 0 && b! + c! > 0) expect(shares[0]).toBe(0);
        },
      ),
    ));
  it('spreads a quarter over its free months and holds them', () => {
    const desk = deskOf([line(1, '6000', TYPED, 100)]);
    desk.apply([month('6000', 3, '4'), { kind: 'span', account: '6000', months: [3, 4, 5], text: '10', spread: 'even' }], {});
    expect([3, 4, 5].map((at) => amount(desk, '6000', at))).toEqual([400, 300, 300]);
    expect(
      desk
        .line(1)!
        .months.map(({ held }) => held)
        .slice(2, 7),
    ).toEqual([false, true, true, true, false]);
  });
  it('replaces what a total gave when a total is entered again, and leaves months entered by hand', () => {
    const desk = deskOf([line(1, '6000', TYPED, 100)]);
    const quarter = (text: string): DeskEdit => ({ kind: 'span', account: '6000', months: [3, 4, 5], text, spread: 'even' });
    const quarterNow = () => [3, 4, 5].map((at) => amount(desk, '6000', at));
    desk.apply([quarter('9')], {});
    expect(quarterNow()).toEqual([300, 300, 300]);
    expect(desk.apply([quarter('12')], {}).refusals).toEqual([]);
    expect(quarterNow()).toEqual([400, 400, 400]);
    desk.apply([month('6000', 4, '5'), quarter('9')], {});
    expect(quarterNow()).toEqual([200, 500, 200]);
    desk.apply([month('6000', 3, '1'), month('6000', 5, '1')], {});
    expect(desk.apply([quarter('9')], {}).refusals).toMatchObject([{ issue: { code: 'allMonthsHeld' } }]);
  });
  it('shares a total by history where a line is at zero, and after a slipped key', () => {
    const facts = [...Array(12).keys()].flatMap((at) => [fact('6000', 2026, at + 1, 300, NORTH), fact('6000', 2026, at + 1, 100, SOUTH)]);
    const row = (north: number, south: number) =>
      new BudgetDesk({
        books: booksOf({ facts, through: 23 }),
        head,
        lines: [line(1, '6000', TYPED, north, NORTH), line(2, '6000', TYPED, south, SOUTH)],
      });
    const split = (desk: BudgetDesk) => [1, 2].map((id) => desk.line(id)!.months[0]!.amount);
    const atZero = row(600, 0);
    atZero.apply([month('6000', 0, '8')], NO);
    expect(split(atZero)).toEqual([600, 200]);
    const slipped = row(300, 100);
    slipped.apply([month('6000', 0, '0.01')], NO);
    slipped.apply([month('6000', 0, '8')], NO);
    expect(split(slipped)).toEqual([600, 200]);
    // a proportion of the budget's own is kept
    const own = row(100, 300);
    own.apply([month('6000', 0, '8')], NO);
    expect(split(own)).toEqual([200, 600]);
  });
  it('takes one basis for all slices of a row, and keeps notes', () => {
    const desk = deskOf([line(1, '5000', TYPED, 100), line(2, '5000', TYPED, 300, SOUTH)]);
    desk.apply(
      [
        { kind: 'note', account: '5000', month: 3, text: ' resin is dearer ' },
        { kind: 'note', account: '5000', month: null, text: 'by hand' },
      ],
      NO,
    );
    expect(desk.note('5000', NO, 3)?.text).toBe('resin is dearer');
    const { notes } = desk.apply([{ kind: 'note', account: '5000', month: 3, text: '' }], NO);
    expect([notes[0]!.after, desk.note('5000', NO, 3), [...desk.notes].length]).toEqual([null, null, 1]);
  });
});
const NO = {};

describe('lines that follow others', () => {
  it('are derived in chains, within their own slice or across all', () => {
    const desk = deskOf([
      line(1, '6100', percent('5000')),
      line(2, '4000', TYPED, -800),
      line(3, '5000', percent('4000')),
      line(4, '4000', TYPED, -90, SOUTH),
      line(5, '6000', percent('4000', true)),
    ]);
    const { changes } = desk.apply([month('4000', 0, '20', undefined)], { department: ['North'] });
    expect(changes.map(({ after }) => after.account).sort()).toEqual(['4000', '5000', '6000', '6100']);
    expect(['5000', '6100', '6000'].map((number) => amount(desk, number, 0))).toEqual([1000, 500, 1045]);
  });
  it('take the shape of another line', () => {
    const desk = deskOf([line(1, '4000', TYPED, 0), line(2, '6000', TYPED, 0)]);
    desk.apply([month('4000', 0, '30'), month('4000', 1, '10')], {});
    desk.apply([{ kind: 'year', account: '6000', text: '8', spread: { by: 'line', accounts: '4000' } }], {});
    expect([0, 1, 2].map((at) => amount(desk, '6000', at))).toEqual([600, 200, 0]);
    desk.apply([month('4000', 1, '30')], {});
    expect([0, 1, 2].map((at) => amount(desk, '6000', at))).toEqual([400, 400, 0]);
  });
  it('that lead back to themselves are refused with their accounts, and nothing changes', () => {
    const desk = deskOf([line(1, '5000', percent('4000')), line(2, '4000', TYPED, -800)]);
    const { refusals, changes } = desk.apply([{ kind: 'basis', account: '4000', basis: percent('5000') }], {});
    expect(refusals).toMatchObject([{ issue: { code: 'circle', accounts: expect.arrayContaining(['4000', '5000']) as unknown } }]);
    expect([changes, desk.line(2)!.basis]).toEqual([[], TYPED]);
  });
});

describe('amounts past what can be held exactly', () => {
  const full = () => deskOf([line(1, '5000', TYPED, 100), line(2, '6000', TYPED, 100)]);
  it('are refused one by one where the whole budget would pass it, and the rest stands', () => {
    const desk = full();
    const most = '80000000000000';
    const { refusals } = desk.apply([month('5000', 0, most), month('6000', 1, most), month('5000', 1, '7')], {});
    expect(refusals).toEqual([{ edit: 1, account: '6000', text: most, issue: { code: 'budgetTooLarge' } }]);
    expect([amount(desk, '5000', 0), amount(desk, '5000', 1), amount(desk, '6000', 1)]).toEqual([8_000_000_000_000_000, 700, 100]);
    // room that was given back can be used again
    expect(desk.apply([month('5000', 0, '1'), month('6000', 1, most)], {}).refusals).toEqual([]);
  });
  it('are refused where a basis makes them', () => {
    const basis: Basis = {
      kind: 'driverRate',
      driver: { name: 'Units', months: Array.from({ length: 12 }, () => 1e12) },
      rates: [{ from: 0, value: '1000000' }],
      unit: 100,
    };
    const desk = full();
    expect(desk.apply([{ kind: 'basis', account: '5000', basis }], {}).refusals[0]!.issue.code).toBe('budgetTooLarge');
    expect(amount(desk, '5000', 0)).toBe(100);
  });
  it('are refused where lines that follow would make them, and nothing of the change stands but notes', () => {
    const desk = deskOf([line(1, '5000', { kind: 'percentOf', accounts: '6000', percent: '900' }, 900), line(2, '6000', TYPED, 100)]);
    const note: DeskEdit = { kind: 'note', account: '6000', month: null, text: 'Kept' };
    const { refusals, notes } = desk.apply([month('6000', 0, '20000000000000'), note], {});
    expect(refusals.map(({ edit, issue }) => [edit, issue.code])).toEqual([[0, 'budgetTooLarge']]);
    expect([amount(desk, '6000', 0), amount(desk, '5000', 0), notes.length]).toEqual([100, 900, 1]);
  });
});

describe('a batch with a circle in it', () => {
  it('refuses each edit that closes it, and takes the rest with its notes', () => {
    const desk = deskOf([line(1, '5000', percent('4000'), 400), line(2, '4000', TYPED, -800), line(3, '6000', TYPED, 10)]);
    const { refusals, changes, notes } = desk.apply(
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
    expect([amount(desk, '6000', 1), desk.line(2)!.basis, changes.length, notes.length]).toEqual([700, TYPED, 1, 1]);
  });
  it('counts edits over all slices of one change', () => {
    const desk = deskOf([line(1, '5000', TYPED, 100), line(2, '5000', TYPED, 300, SOUTH)]);
    const { refusals, changes } = desk.applyAll([
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
  const state = (desk: BudgetDesk) => [...desk.lines].map(({ id, basis, months }) => ({ id, basis, months })).sort((a, b) => a.id - b.id);

  it('leaves the budget as it was before, whatever was changed; made again, as it was after', () =>
    fc.assert(
      fc.property(fc.array(anyEdit, { minLength: 1, maxLength: 6 }), (edits) => {
        const desk = deskOf(lines());
        const before = state(desk);
        const { changes, notes } = desk.apply(edits, {});
        const after = state(desk);
        desk.revert(changes, notes);
        expect(state(desk)).toEqual(before);
        desk.remake(changes, notes);
        expect(state(desk)).toEqual(after);
      }),
    ));
  it('leaves what another changed since', () => {
    const desk = deskOf(lines());
    const { changes, notes } = desk.apply([month('6000', 0, '5'), month('6000', 1, '6')], {});
    desk.apply([month('6000', 1, '99')], {});
    const { kept } = desk.revert(changes, notes);
    expect([amount(desk, '6000', 0), amount(desk, '6000', 1), kept]).toEqual([12, 9900, 1]);
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
          const desk = new BudgetDesk({ books, head, lines });
          const figures = new BudgetFigures({ ...options, lines });
          for (const [account, at, value] of typed) {
            figures.accept(desk.apply([month(account, at, String(value / 100))], NORTH_ONLY).changes);
            const anew = new BudgetFigures({ ...options, lines: desk.lines });
            for (const filter of [{}, NORTH_ONLY]) expect(figures.grid(filter).cells).toEqual(anew.grid(filter).cells);
          }
        },
      ),
      { numRuns: 30 },
    ));
  it('keep the rows that an edit does not reach', () => {
    const books = booksOf({});
    const lines = [line(1, '4000', TYPED, -700), line(2, '6000', TYPED, 100), line(3, '6100', TYPED, 50)];
    const desk = new BudgetDesk({ books, head, lines });
    const figures = new BudgetFigures({ books, head, lines, lineSet: INCOME_LINES, columnSet: BUDGET_GRID_COLUMNS });
    const before = figures.grid({});
    figures.accept(desk.apply([month('6000', 2, '120')], NORTH_ONLY).changes);
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
