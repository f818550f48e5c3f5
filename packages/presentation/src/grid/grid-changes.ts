import type { CellDto, GridDto } from '@wise-margin/contract';
import type { Cell, StatementGrid } from '@wise-margin/core';

import { cellDto } from './grid-dto.ts';
import { type PackedRows, packRows, unpackRows } from './packed-grid.ts';

/** Cells of a shown grid that changed: where they stand in it, and what they show now as one packed row. */
export type GridChanges = { readonly rows: readonly number[]; readonly columns: readonly number[]; readonly cells: PackedRows };

const isNothing = (cell: Cell): boolean => cell.kind === 'blank' || (cell.kind !== 'notMeaningful' && cell.value === 0);
const isSame = (a: Cell, b: Cell): boolean =>
  a === b ||
  (a.kind === b.kind &&
    ('value' in a
      ? 'value' in b && a.value === b.value && ('favor' in a ? a.favor : undefined) === ('favor' in b ? b.favor : undefined)
      : 'reason' in b && a.reason === b.reason));

/**
 * What of a shown grid changed from one evaluation of its plan to the next. Rows that are the same by identity
 * are not looked into.
 * @param shown the grid as it was shown before
 * @returns null when more than figures changed, such as a line that held nothing and now does: the whole is to be shown again
 */
export function gridChanges(shown: GridDto, before: StatementGrid, after: StatementGrid): GridChanges | null {
  // parts in the order of their amounts may change places
  if (before.plan !== after.plan || after.plan.lines.some(({ order }) => order === 'amount')) return null;
  const { lines, columns: planned } = after.plan;
  const columnOf = new Map(planned.map(({ key, index }) => [key, index]));
  const shownColumns = shown.columns.map(({ key }) => columnOf.get(key)!);
  const rowOf = new Map(shown.lines.map(({ key }, row) => [key, row]));
  const rows: number[] = [];
  const columns: number[] = [];
  const cells: CellDto[] = [];
  for (const { index, key } of lines) {
    const [was, now] = [before.cells[index]!, after.cells[index]!];
    const row = was === now ? undefined : rowOf.get(key);
    if (row === undefined) continue;
    if (shownColumns.every((column) => isNothing(now[column]!)) !== shown.lines[row]!.isZero) return null;
    shownColumns.forEach((column, position) => {
      if (isSame(was[column]!, now[column]!)) return;
      rows.push(row);
      columns.push(position);
      cells.push(cellDto(now[column]!));
    });
  }
  return { rows, columns, cells: packRows([cells]) };
}

/** A grid with some of its cells replaced; rows without any are the same, by identity. */
export function withChanges(grid: GridDto, { rows, columns, cells }: GridChanges): GridDto {
  if (rows.length === 0) return grid;
  const changed = unpackRows(cells)[0]!;
  const copies = new Map<number, CellDto[]>();
  rows.forEach((row, index) => {
    const copy = copies.get(row) ?? [...grid.cells[row]!];
    copy[columns[index]!] = changed[index]!;
    copies.set(row, copy);
  });
  return { ...grid, cells: grid.cells.map((row, index) => copies.get(index) ?? row) };
}
