import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import type { Basis } from './basis.ts';
import { rowAmount } from './budget-line.ts';
import { booksOf, head, line, positionOf } from './small-budget.ts';
import { BudgetWorksheet, type WorksheetResult } from './worksheet.ts';
import type { WorksheetEdit } from './worksheet-edit.ts';

const NO = { department: ['North'] };
const following = (accounts: string): Basis => ({ kind: 'percentOf', accounts, percent: '50' });
const basis = (account: string, of: Basis): WorksheetEdit => ({ kind: 'basis', account, basis: of });
const month = (account: string, at: number, text: string): WorksheetEdit => ({ kind: 'month', account, month: at, text });
const fresh = () =>
  new BudgetWorksheet({
    books: booksOf({}),
    head,
    lines: ['4000', '5000', '6000', '6100'].map((number, index) => line(index + 1, number, { kind: 'typed' }, 1000 * (index + 1))),
  });

/** A budget two people work on, each with undo and redo of their own changes, as the server keeps it. */
class Shared {
  readonly worksheet = fresh();
  version = 0;
  readonly #changes: { readonly session: string; readonly result: WorksheetResult; isUndone: boolean }[] = [];

  edit(session: string, edits: readonly WorksheetEdit[]): WorksheetResult {
    const result = this.worksheet.apply(edits, NO);
    if (result.changes.length > 0) {
      this.version += 1;
      this.#changes.push({ session, result, isUndone: false });
    }
    return result;
  }
  step(session: string, kind: 'undo' | 'redo') {
    const own = this.#changes.filter((change) => change.session === session);
    const lastStanding = own.findLastIndex(({ isUndone }) => !isUndone);
    const change = kind === 'undo' ? own[lastStanding] : own.slice(lastStanding + 1).find(({ isUndone }) => isUndone);
    if (!change) return null;
    const { changes, notes } = change.result;
    const stepped = kind === 'undo' ? this.worksheet.undo(changes, notes) : this.worksheet.redo(changes, notes);
    if (stepped.fault) return stepped;
    change.isUndone = kind === 'undo';
    if (stepped.changes.length > 0) this.version += 1;
    return stepped;
  }
}

describe('two sessions at one budget', () => {
  it('a redo that would make lines follow one another is refused with its accounts, and nothing changes', () => {
    const shared = new Shared();
    shared.edit('A', [basis('5000', following('6000'))]);
    shared.step('A', 'undo');
    shared.edit('B', [basis('6000', following('5000'))]);
    const before = JSON.stringify([...shared.worksheet.lines]);
    const { fault } = shared.step('A', 'redo')!;
    expect(fault).toMatchObject({ code: 'circle' });
    expect(JSON.stringify([...shared.worksheet.lines])).toBe(before);
    expect(shared.edit('A', [month('5000', 0, '77')]).changes.length).toBeGreaterThan(0);
  });

  it('whatever they do in any order, no circle is stored, plain months keep what is typed, and nothing without effect counts', () => {
    const session = fc.constantFrom('A', 'B');
    const account = fc.constantFrom('4000', '5000', '6000', '6100');
    const action = fc.oneof(
      fc.tuple(session, account, fc.constantFrom('4000', '5000', '6000', '6100', '5000-6999')).map(([who, at, of]) => ({
        who,
        edits: [basis(at, following(of))],
      })),
      fc
        .tuple(session, account, fc.integer({ min: -999, max: 999 }))
        .map(([who, at, cents]) => ({ who, edits: [month(at, 2, String(cents))] })),
      fc.tuple(session, account).map(([who, at]) => ({ who, edits: [basis(at, { kind: 'typed' })] })),
      fc.tuple(session, fc.constantFrom('undo' as const, 'redo' as const)).map(([who, step]) => ({ who, step })),
    );
    fc.assert(
      fc.property(fc.array(action, { maxLength: 40 }), (actions) => {
        const shared = new Shared();
        for (const each of actions) {
          const version = shared.version;
          const before = JSON.stringify([...shared.worksheet.lines].map(({ basis: of, months }) => [of, months]));
          if ('step' in each) shared.step(each.who, each.step);
          else shared.edit(each.who, each.edits);
          const after = JSON.stringify([...shared.worksheet.lines].map(({ basis: of, months }) => [of, months]));
          expect(shared.version === version).toBe(before === after);
          expect(shared.worksheet.circle).toBeNull();
        }
        const { refusals } = shared.edit('A', [month('6100', 5, '12.34')]);
        expect(refusals).toEqual([]);
        expect(rowAmount(shared.worksheet.linesOf(positionOf('6100'), NO), 5)).toBe(1234);
      }),
      { numRuns: 300 },
    );
  });

  it('a budget that holds a circle is opened, names it, takes other edits, and is repaired by another basis', () => {
    const worksheet = new BudgetWorksheet({
      books: booksOf({}),
      head,
      lines: [line(1, '5000', following('6000'), 100), line(2, '6000', following('5000'), 200), line(3, '6100', { kind: 'typed' }, 5)],
    });
    expect(worksheet.circle).toEqual(['5000', '6000', '5000']);
    expect(worksheet.apply([month('6100', 0, '9')], NO)).toMatchObject({ refusals: [], changes: [{ after: { id: 3 } }] });
    const repaired = worksheet.apply([basis('5000', { kind: 'typed' })], NO);
    expect([repaired.refusals, worksheet.circle]).toEqual([[], null]);
    expect(worksheet.line(2)!.months[0]!.amount).toBe(0);
  });
});
