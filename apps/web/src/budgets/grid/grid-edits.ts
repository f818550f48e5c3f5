import type { BudgetEditDto } from '@wise-margin/contract';
import type { Spread } from '@wise-margin/core';

import type { BudgetColumn } from './grid-columns.ts';
import type { BudgetLineShown } from './grid-lines.ts';

/** A cell of the month grid: rows and columns as they are shown. */
export type Place = { readonly row: number; readonly column: number };
export type Grid = { readonly lines: readonly BudgetLineShown[]; readonly columns: readonly BudgetColumn[]; readonly spread: Spread };

/** Whether a figure can be typed at a place. */
export const isInput = ({ lines, columns }: Grid, { row, column }: Place): boolean =>
  (lines[row]?.accounts.length ?? 0) > 0 && (columns[column]?.months.length ?? 0) > 0;

/** The edit of a text typed at a place; null where nothing can be typed. */
export function editAt(grid: Grid, place: Place, text: string): BudgetEditDto | null {
  if (!isInput(grid, place)) return null;
  const [account, ...together] = grid.lines[place.row]!.accounts as [string, ...string[]];
  const { kind, months } = grid.columns[place.column]!;
  const { sign } = grid.lines[place.row]!.line;
  const common = { account, sign, text, ...(together.length > 0 ? { together } : {}) };
  if (kind === 'month') return { kind: 'month', ...common, month: months[0]! };
  return kind === 'year'
    ? { kind: 'year', ...common, spread: grid.spread }
    : { kind: 'span', ...common, months: [...months], spread: grid.spread };
}

/** All places of the rectangle between two, row by row. */
export function placesBetween(a: Place, b: Place): Place[] {
  const [top, bottom] = [Math.min(a.row, b.row), Math.max(a.row, b.row)];
  const [left, right] = [Math.min(a.column, b.column), Math.max(a.column, b.column)];
  const places: Place[] = [];
  for (let row = top; row <= bottom; row += 1) for (let column = left; column <= right; column += 1) places.push({ row, column });
  return places;
}

export type Pasted = {
  readonly edits: readonly BudgetEditDto[];
  /** what of the block found no place, in words; null when all of it did */
  readonly left: string | null;
};

/**
 * A block of a spreadsheet laid over accounts from a place on, down and to the right: months in their
 * order and then the year; quarters and totals are passed over, for they follow.
 */
export function pasteBlock(grid: Grid, from: Place, text: string): Pasted {
  const block = text
    .replace(/\r?\n$/, '')
    .split(/\r?\n/)
    .map((row) => row.split('\t'));
  const rows = grid.lines.flatMap(({ line }, row) => (row >= from.row && line.account !== null ? [row] : []));
  const columns = grid.columns.flatMap(({ kind }, column) =>
    column >= from.column && (kind === 'month' || kind === 'year') ? [column] : [],
  );
  const width = Math.max(...block.map((cells) => cells.length));
  const made = block.slice(0, rows.length).flatMap((cells, down) =>
    cells.slice(0, columns.length).flatMap((cell, right) => {
      if (cell.trim() === '') return [];
      return [editAt(grid, { row: rows[down]!, column: columns[right]! }, cell.trim())];
    }),
  );
  const edits = made.filter((edit) => edit !== null);
  const left = [
    made.length > edits.length ? `${count(made.length - edits.length, 'amount')} on rows that show part of an account` : '',
    block.length > rows.length ? `${count(block.length - rows.length, 'row')} past the last line` : '',
    width > columns.length ? `${count(width - columns.length, 'column')} past the end of the year` : '',
  ].filter((words) => words !== '');
  return { edits, left: left.length > 0 ? `Not pasted: ${left.join(' and ')}.` : null };
}

const count = (number: number, one: string): string => `${number} ${number === 1 ? one : `${one}s`}`;

/** The first cell of each selected row written into the other months of the selection. @param textAt what stands at a place, exactly */
export function fillRight(grid: Grid, places: readonly Place[], textAt: (place: Place) => string): BudgetEditDto[] {
  const byRow = new Map<number, Place[]>();
  for (const place of places)
    if (grid.columns[place.column]?.kind === 'month') byRow.set(place.row, [...(byRow.get(place.row) ?? []), place]);
  return [...byRow.values()].flatMap(([first, ...rest]) =>
    first === undefined ? [] : rest.flatMap((place) => editAt(grid, place, textAt(first)) ?? []),
  );
}

/** One text for every selected cell, such as `+5%`. Where months are among them, quarters and the year beside them are left to follow. */
export function changeAll(grid: Grid, places: readonly Place[], text: string): BudgetEditDto[] {
  const hasMonths = places.some(({ column }) => grid.columns[column]?.kind === 'month');
  const single = places.some(({ row }) => grid.lines[row]?.line.account !== null && (grid.lines[row]?.accounts.length ?? 0) === 1);
  return places.flatMap((place) => {
    const isFollowing = hasMonths && grid.columns[place.column]?.kind !== 'month';
    const isAbove = single && grid.lines[place.row]?.line.account === null;
    return isFollowing || isAbove ? [] : (editAt(grid, place, text) ?? []);
  });
}

/** One text as the total of the selected months of each row, such as the rest of the year; held months among them stay. */
export function totalOver(grid: Grid, places: readonly Place[], text: string): BudgetEditDto[] {
  const months = [...new Set(places.map(({ column }) => column))].flatMap((column) => {
    const { kind, months: own } = grid.columns[column]!;
    return kind === 'month' ? own : [];
  });
  if (months.length < 2) return [];
  return [...new Set(places.map(({ row }) => row))].flatMap((row) => {
    const { line, accounts } = grid.lines[row]!;
    return line.account === null || accounts.length !== 1
      ? []
      : [{ kind: 'span' as const, account: line.account, sign: line.sign, months: [...months], text, spread: grid.spread }];
  });
}

/** The months of a line as a shape others can take: weights by their size, even when all are zero. @param months minor units */
export function shapeOf(months: readonly number[]): Spread {
  const weights = months.map(Math.abs);
  return weights.some((weight) => weight > 0) ? { by: 'weights', weights } : 'even';
}

/** The year of each selected line spread again in a shape; the chosen one when none is given. */
export function spreadAgain(
  grid: Grid,
  places: readonly Place[],
  { yearText, spread = grid.spread }: { readonly yearText: (row: number) => string; readonly spread?: Spread },
): BudgetEditDto[] {
  return [...new Set(places.map(({ row }) => row))].flatMap((row) => {
    const { line, accounts } = grid.lines[row]!;
    return line.account === null || accounts.length !== 1
      ? []
      : [{ kind: 'year' as const, account: line.account, sign: line.sign, text: yearText(row), spread }];
  });
}
