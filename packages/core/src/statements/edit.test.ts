import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import type { Column, ColumnSet } from './column-set.ts';
import {
  addBlock,
  addColumn,
  changeColumn,
  duplicateBlock,
  freeKey,
  moveBlock,
  moveColumn,
  removeColumn,
  renameColumn,
} from './edit-columns.ts';
import { changeLine, duplicateLine, findLine, insertLine, moveLine, removeLine, renameLine, stepLine, walkLines } from './edit-lines.ts';
import type { Line, LineSet } from './line-set.ts';
import { renameInExpression } from './rename-in-expression.ts';
import { REVIEW_COLUMNS } from './shipped/comparison-columns.ts';
import { INCOME_LINES } from './shipped/income-lines.ts';

const keys = (set: LineSet): string[] => {
  const found: string[] = [];
  walkLines(set.lines, ({ key }) => found.push(key));
  return found;
};
const formula = (key: string, expression: string): Line => ({ kind: 'formula', key, name: key, expression, result: 'amount' });
const lines = (...own: Line[]): LineSet => ({ key: 't', name: 'T', percentBase: 'a', lines: own });
const columns = (set: ColumnSet, block: string) => set.blocks.find(({ key }) => key === block)!.columns.map(({ key }) => key);
const actual: Column = { kind: 'amount', key: 'actual', heading: 'Actual', scenario: 'actual', span: { kind: 'month' } };

describe('lines', () => {
  it('go before, after and into others, with a key of their own', () => {
    const set = lines(formula('a', '1'), { kind: 'section', key: 's', name: 'S', lines: [formula('b', 'a')] });
    expect(keys(insertLine(set, formula('a', '2'), { at: 'before', key: 'a' }).set)).toEqual(['a_2', 'a', 's', 'b']);
    expect(keys(insertLine(set, formula('c', '2'), { at: 'after', key: 'b' }).set)).toEqual(['a', 's', 'b', 'c']);
    expect(insertLine(set, formula('c', '2'), { at: 'inside', key: 's' })).toMatchObject({
      key: 'c',
      set: { lines: [{}, { lines: [{}, { key: 'c' }] }] },
    });
    expect(keys(insertLine(set, formula('c', '2'), { at: 'end' }).set)).toEqual(['a', 's', 'b', 'c']);
  });
  it('duplicate with all in them, references within following', () => {
    const set = lines(
      {
        kind: 'section',
        key: 's',
        name: 'S',
        lines: [formula('b', '1'), formula('c', 'b + a'), { kind: 'total', key: 't', name: 'T', of: 's', sign: 'debit' }],
      },
      formula('a', '1'),
    );
    const copy = duplicateLine(set, 's');
    expect(copy.key).toBe('s_2');
    expect(findLine(copy.set, 'c_2')).toMatchObject({ expression: 'b_2 + a' });
    expect(findLine(copy.set, 't_2')).toMatchObject({ of: 's_2' });
  });
  it('keep every reference when a key is changed', () => {
    const set = renameLine({ ...INCOME_LINES }, 'revenue', 'net_sales');
    expect(set.percentBase).toBe('net_sales');
    expect(findLine(set, 'gross_margin')).toMatchObject({ expression: 'gross_profit / net_sales' });
    expect(findLine(set, 'revenue')).toBeNull();
    expect(renameLine(set, 'net_sales', 'gross_profit')).toBe(set);
    expect(renameInExpression('a + aa * (a / b.a)', 'a', 'x')).toBe('x + aa * (x / b.a)');
  });
  it('step out of a section at its end, and not into themselves', () => {
    const set = lines(formula('a', '1'), { kind: 'section', key: 's', name: 'S', lines: [formula('b', '1'), formula('c', '1')] });
    expect(keys(stepLine(set, 'c', -1))).toEqual(['a', 's', 'c', 'b']);
    expect(stepLine(set, 'b', -1).lines.map(({ key }) => key)).toEqual(['a', 'b', 's']);
    expect(stepLine(set, 'a', -1)).toBe(set);
    expect(moveLine(set, 's', { at: 'inside', key: 'b' })).toBe(set);
  });
  it('are never lost or doubled by moving and stepping', () => {
    const all = keys(INCOME_LINES);
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.constantFrom(...all),
            fc.constantFrom(...all),
            fc.constantFrom('before' as const, 'after' as const, 'inside' as const, -1 as const, 1 as const),
          ),
          { maxLength: 12 },
        ),
        (moves) => {
          const set = moves.reduce<LineSet>(
            (own, [key, other, how]) => (typeof how === 'number' ? stepLine(own, key, how) : moveLine(own, key, { at: how, key: other })),
            INCOME_LINES,
          );
          expect([...keys(set)].sort()).toEqual([...all].sort());
        },
      ),
      { numRuns: 60 },
    );
  });
  it('change and go in place', () => {
    const set = lines(formula('a', '1'), formula('b', 'a'));
    expect(
      findLine(
        changeLine(set, 'b', (line) => ({ ...line, name: 'Changed', key: 'other' })),
        'b',
      ),
    ).toMatchObject({ name: 'Changed' });
    expect(keys(removeLine(set, 'a'))).toEqual(['b']);
  });
});

describe('columns', () => {
  it('are added with a free key, changed, moved and removed', () => {
    const empty: ColumnSet = { key: 'c', name: 'C', blocks: [] };
    const made = addBlock(empty, { key: 'b', heading: '', span: { kind: 'month' }, columns: [] });
    let set = addColumn(made.set, { block: 'b' }, actual).set;
    const second = addColumn(set, { block: 'b', after: 'actual' }, actual);
    expect(second.key).toBe('actual_2');
    set = addColumn(
      second.set,
      { block: 'b' },
      { kind: 'difference', key: 'difference', heading: '', compared: 'actual', base: 'actual_2' },
    ).set;
    expect(columns(moveColumn(set, { block: 'b', column: 'difference' }, 0), 'b')).toEqual(['difference', 'actual', 'actual_2']);
    expect(columns(removeColumn(set, { block: 'b', column: 'actual' }), 'b')).toEqual(['actual_2', 'difference']);
    const renamed = renameColumn(set, { block: 'b', column: 'actual_2' }, 'before');
    expect(renamed.blocks[0]!.columns[2]).toMatchObject({ compared: 'actual', base: 'before' });
    expect(
      changeColumn(set, { block: 'b', column: 'actual' }, (column) => ({ ...column, heading: 'Now' })).blocks[0]!.columns[0]!.heading,
    ).toBe('Now');
  });
  it('follow a renamed column from other blocks and in formulas', () => {
    const set: ColumnSet = {
      key: 'c',
      name: 'C',
      blocks: [
        {
          key: 'b',
          heading: '',
          span: { kind: 'month' },
          columns: [actual, { kind: 'formula', key: 'twice', heading: '', expression: 'actual * 2', result: 'amount' }],
        },
        {
          key: 'd',
          heading: '',
          span: { kind: 'month' },
          columns: [{ kind: 'formula', key: 'x', heading: '', expression: 'b.actual + b.total.actual + actual', result: 'amount' }],
        },
      ],
    };
    const renamed = renameColumn(set, { block: 'b', column: 'actual' }, 'now');
    expect(renamed.blocks[0]!.columns[1]).toMatchObject({ expression: 'now * 2' });
    expect(renamed.blocks[1]!.columns[0]).toMatchObject({ expression: 'b.now + b.total.now + actual' });
  });
  it('blocks move and stand twice as one', () => {
    const copy = duplicateBlock(REVIEW_COLUMNS, 'month');
    expect(copy.set.blocks.map(({ key }) => key)).toEqual(['month', 'month_2', 'ytd']);
    expect(moveBlock(copy.set, 'ytd', 0).blocks.map(({ key }) => key)).toEqual(['ytd', 'month', 'month_2']);
    expect(freeKey(['a', 'a_2'], 'a')).toBe('a_3');
  });
});
