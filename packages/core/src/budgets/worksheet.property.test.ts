import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { signOf } from '../chart/account.ts';
import { toDecimalText } from '../money/format-amount.ts';
import { LARGEST_MINOR, minor } from '../money/minor.ts';
import type { PlacedLine } from './budget-books.ts';
import { absoluteTotal, rowAmount } from './budget-line.ts';
import { booksOf, chart, head, line, NORTH, positionOf, SOUTH } from './small-budget.ts';
import { BudgetWorksheet } from './worksheet.ts';
import type { WorksheetEdit } from './worksheet-edit.ts';

const ACCOUNTS = ['4000', '5000', '6000', '6100'] as const;
const department = fc.constantFrom(undefined, 'North', 'South');
const filterOf = (of: string | undefined) => (of === undefined ? {} : { department: [of] });
const account = fc.constantFrom(...ACCOUNTS);
const month = fc.integer({ min: 0, max: 11 });
const text = fc.oneof(
  fc.integer({ min: -1e8, max: 1e8 }).map(String),
  fc.constantFrom('+5%', '-12.5%', '*1.1', '/3', '12k', '1.2m', '(300)', '80000000000000', 'lots'),
);
const spread = fc.constantFrom('even' as const, 'history' as const, 'days' as const, { by: 'line' as const, accounts: '4000' });
const edit: fc.Arbitrary<WorksheetEdit> = fc.oneof(
  fc.record({ kind: fc.constant('month' as const), account, month, text }),
  fc.record({ kind: fc.constant('year' as const), account, text, spread }),
  fc.record({ kind: fc.constant('span' as const), account, months: fc.constant([3, 4, 5]), text, spread }),
  fc.record({ kind: fc.constant('release' as const), account, months: fc.constant([0, 1, 2, 3, 4, 5]) }),
  fc.record({
    kind: fc.constant('basis' as const),
    account,
    basis: fc.constantFrom(
      { kind: 'percentOf' as const, accounts: '4000', percent: '40' },
      { kind: 'percentOf' as const, accounts: '5000-6999', percent: '-150' },
      { kind: 'typed' as const },
    ),
  }),
);
const made = fc.array(fc.tuple(edit, department), { minLength: 1, maxLength: 25 });
const fresh = () =>
  new BudgetWorksheet({
    books: booksOf({}),
    head,
    lines: [
      line(1, '4000', { kind: 'typed' }, -10_000),
      line(2, '4000', { kind: 'typed' }, -5000, SOUTH),
      line(3, '5000', { kind: 'percentOf', accounts: '4000', percent: '40' }, 4000, NORTH),
      line(4, '6000', { kind: 'typed' }, 777),
    ],
  });
const standing = (worksheet: BudgetWorksheet): PlacedLine[] => [...worksheet.lines].sort((a, b) => a.id - b.id);

describe('whatever is done to a budget', () => {
  it('what is typed is what stands, to the cent, in one slice or all together', () =>
    fc.assert(
      fc.property(made, fc.integer({ min: -1e9, max: 1e9 }), account, month, department, (edits, cents, number, at, of) => {
        const worksheet = fresh();
        for (const [each, slice] of edits) worksheet.apply([each], filterOf(slice));
        const position = positionOf(number);
        const sign = signOf(chart.accounts[position]!);
        const filter = filterOf(of);
        const { refusals } = worksheet.apply([{ kind: 'month', account: number, month: at, text: toDecimalText(minor(cents), 2) }], filter);
        if (refusals.length === 0) expect(sign * rowAmount(worksheet.linesOf(position, filter), at) + 0).toBe(cents);
        else expect(refusals.map(({ issue }) => issue.code)).toEqual(['budgetTooLarge']);
      }),
      { numRuns: 200 },
    ));
  it('every amount is whole, and all of them together stay within what is exact', () =>
    fc.assert(
      fc.property(made, (edits) => {
        const worksheet = fresh();
        for (const [each, slice] of edits) worksheet.apply([each], filterOf(slice));
        const amounts = standing(worksheet).flatMap(({ months }) => months.map(({ amount }) => amount));
        for (const amount of amounts) expect(Number.isSafeInteger(amount) && !Object.is(amount, -0)).toBe(true);
        expect(standing(worksheet).reduce((sum, { months }) => sum + absoluteTotal(months), 0)).toBeLessThanOrEqual(LARGEST_MINOR);
      }),
      { numRuns: 200 },
    ));
  it('all of it taken back, the newest first, leaves the budget as it was; made again, as it became', () =>
    fc.assert(
      fc.property(made, (edits) => {
        const worksheet = fresh();
        const before = standing(worksheet);
        const results = edits.map(([each, slice]) => worksheet.apply([each], filterOf(slice)));
        const after = standing(worksheet);
        for (const { changes, notes } of [...results].reverse()) expect(worksheet.undo(changes, notes).notUndone).toBe(0);
        const back = standing(worksheet).filter(({ id, months }) => before.some((each) => each.id === id) || absoluteTotal(months) > 0);
        expect(back).toEqual(before);
        for (const { changes, notes } of results) expect(worksheet.redo(changes, notes).notUndone).toBe(0);
        expect(standing(worksheet)).toEqual(after);
      }),
      { numRuns: 150 },
    ));
  it('the lines that changed are changedIds, and no others', () =>
    fc.assert(
      fc.property(made, edit, department, (edits, last, of) => {
        const worksheet = fresh();
        for (const [each, slice] of edits) worksheet.apply([each], filterOf(slice));
        const before = new Map(standing(worksheet).map((each) => [each.id, each]));
        const { changes } = worksheet.apply([last], filterOf(of));
        const changedIds = new Set(changes.map(({ after }) => after.id));
        for (const now of standing(worksheet)) {
          const was = before.get(now.id);
          const isSame = was !== undefined && JSON.stringify([was.basis, was.months]) === JSON.stringify([now.basis, now.months]);
          if (!isSame) expect(changedIds.has(now.id)).toBe(true);
          else expect(changedIds.has(now.id)).toBe(false);
        }
      }),
      { numRuns: 150 },
    ));
});
