import type { GridDto } from '@wise-margin/contract';
import { blank, type Cell, notMeaningful, type StatementGrid } from '@wise-margin/core';
import { describe, expect, it } from 'vitest';

import { gridChanges, withChanges } from './grid-changes.ts';

const amount = (value: number, favor?: 'F' | 'U'): Cell => ({ kind: 'amount', value, ...(favor ? { favor } : {}) }) as Cell;
const plan = (orders: readonly string[] = ['number', 'number', 'number']) => ({
  lines: orders.map((order, index) => ({ index, key: `line${index}`, order })),
  columns: [0, 1, 2].map((index) => ({ index, key: `column${index}` })),
});
const gridOf = (of: object, cells: readonly (readonly Cell[])[]): StatementGrid => ({ plan: of, cells }) as unknown as StatementGrid;
/** The grid as it is shown: the second line first, the third hidden, and of the columns the last two. */
const shownOf = ({ cells }: StatementGrid): GridDto =>
  ({
    columns: [{ key: 'column1' }, { key: 'column2' }],
    lines: [1, 0].map((index) => ({
      key: `line${index}`,
      isZero: cells[index]!.slice(1).every((cell) => cell.kind === 'blank' || ('value' in cell && cell.value === 0)),
    })),
    cells: [1, 0].map((index) => cells[index]!.slice(1)),
  }) as unknown as GridDto;

const of = plan();
const rows: Cell[][] = [
  [amount(1), amount(2), blank('noBudget')],
  [amount(3), amount(4, 'F'), notMeaningful('zeroBase')],
  [amount(5), amount(6), amount(7)],
];
const before = gridOf(of, rows);
const shown = shownOf(before);

describe('what of a shown grid changed', () => {
  it('is nothing where rows are the same, and the grid stays the same', () => {
    const changes = gridChanges(shown, before, gridOf(of, [...rows]))!;
    expect(changes.rows).toEqual([]);
    expect(withChanges(shown, changes)).toBe(shown);
  });
  it('is listed cell by cell, in the order shown, and put where it belongs', () => {
    const after = gridOf(of, [[amount(9), amount(2), amount(8)], [amount(3), amount(4, 'U'), notMeaningful('zeroBase')], rows[2]!]);
    const changes = gridChanges(shown, before, after)!;
    expect([changes.rows, changes.columns]).toEqual([
      [1, 0],
      [1, 0],
    ]);
    const now = withChanges(shown, changes);
    expect(now.cells).toEqual(shownOf(after).cells);
    expect(shown.cells).toEqual(shownOf(before).cells);
  });
  it('leaves out lines and columns that are not shown', () => {
    const after = gridOf(of, [[amount(100), ...rows[0]!.slice(1)], rows[1]!, [amount(1), amount(1), amount(1)]]);
    const changes = gridChanges(shown, before, after)!;
    expect(changes.rows).toEqual([]);
  });
  it('keeps rows without a change by identity', () => {
    const after = gridOf(of, [[amount(1), amount(20), blank('noBudget')], rows[1]!, rows[2]!]);
    const now = withChanges(shown, gridChanges(shown, before, after)!);
    expect(now.cells[0]).toBe(shown.cells[0]);
    expect(now.cells[1]).not.toBe(shown.cells[1]);
  });
  it('is the whole where a line comes to hold something or nothing, the plan is another, or parts stand by size', () => {
    expect(gridChanges(shown, before, gridOf(of, [[amount(1), amount(0), blank('noBudget')], rows[1]!, rows[2]!]))).toBeNull();
    expect(gridChanges(shown, before, gridOf(plan(), rows))).toBeNull();
    const bySize = plan(['number', 'amount', 'number']);
    expect(gridChanges(shown, gridOf(bySize, rows), gridOf(bySize, rows))).toBeNull();
  });
});
