import type { Cell, StatementGrid } from '@wise-margin/core';
import { cellDto } from './grid-dto.ts';
import { packRows, unpackRows, type PackedRows } from './packed-grid.ts';
import type { CellDto, GridDto } from './statements.ts';

/** Rows of a grid that changed: their positions in it, and the cells they show now. */
export type GridRows = { readonly at: readonly number[]; readonly cells: PackedRows };

const isNothing = (cell: Cell | CellDto): boolean => cell.kind === 'blank' || (cell.kind !== 'notMeaningful' && cell.value === 0);

/**
 * What of a shown grid changed from one evaluation of its plan to the next, found by the identity of its rows.
 * @param shown the grid as it was shown before
 * @returns null when more than figures changed, such as a line that held nothing and now does: the whole is to be shown anew
 */
export function changedRows(shown: GridDto, before: StatementGrid, after: StatementGrid): GridRows | null {
  // parts in the order of their amounts may change places
  if (before.plan !== after.plan || after.plan.lines.some(({ order }) => order === 'amount')) return null;
  const { lines, columns } = after.plan;
  const columnOf = new Map(columns.map(({ key, index }) => [key, index]));
  const shownColumns = shown.columns.map(({ key }) => columnOf.get(key)!);
  const rowOf = new Map(shown.lines.map(({ key }, row) => [key, row]));
  const at: number[] = [];
  const cells: CellDto[][] = [];
  for (const { index, key } of lines) {
    if (before.cells[index] === after.cells[index]) continue;
    const row = rowOf.get(key);
    if (row === undefined) continue;
    const now = shownColumns.map((column) => cellDto(after.cells[index]![column]!));
    if (now.every(isNothing) !== shown.lines[row]!.isZero) return null;
    at.push(row);
    cells.push(now);
  }
  return { at, cells: packRows(cells) };
}

/** A grid with some of its rows replaced; everything else is the same, by identity. */
export function withRows(grid: GridDto, { at, cells }: GridRows): GridDto {
  if (at.length === 0) return grid;
  const rows = [...grid.cells];
  const changed = unpackRows(cells);
  at.forEach((row, index) => {
    rows[row] = changed[index]!;
  });
  return { ...grid, cells: rows };
}
