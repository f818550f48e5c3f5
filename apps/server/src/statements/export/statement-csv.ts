import { type CellDto } from '@wise-margin/contract';
import { type Minor, toDecimalText } from '@wise-margin/core';
import { cellReasonWords } from '@wise-margin/presentation';
import { stringify } from 'csv-stringify/sync';

import { safeText } from '../../formats/safe-text.ts';
import type { ExportedStatement } from './exported-statement.ts';

/** A figure for files: decimal text; percentages in percent with up to six decimals; n/m; nothing. */
export function cellText(cell: CellDto, exponent: number): string {
  switch (cell.kind) {
    case 'amount':
      return toDecimalText(cell.value as Minor, exponent);
    case 'quantity':
      return String(plainNumber(cell.value));
    case 'ratio':
      return String(ratioNumber(cell));
    case 'notMeaningful':
      return `n/m (${cellReasonWords(cell).replace('Not meaningful: ', '')})`;
    case 'blank':
      return '';
  }
}

/** Percentages and points in percent (14.153), other ratios as they are; at most six decimals. */
export function ratioNumber(cell: CellDto & { kind: 'ratio' }): number {
  const value = cell.unit === 'percent' || cell.unit === 'points' ? cell.value * 100 : cell.value;
  return plainNumber(value);
}

/** At most six decimals, never minus zero. */
function plainNumber(value: number): number {
  const rounded = Math.round(value * 1e6) / 1e6;
  return rounded === 0 ? 0 : rounded;
}

/**
 * A grid as CSV: two heading rows (blocks, columns), then a row for each line shown, with a mark
 * column beside each difference. Amounts are exact decimals whatever unit the screen rounds to.
 */
export function gridCsv({ dto: grid, lines, title, exponent }: ExportedStatement): string {
  const marks = (index: number) => grid.columns[index]!.kind === 'difference';
  const headings = grid.columns.flatMap((column, index) => (marks(index) ? [safeText(column.heading), 'F/U'] : [safeText(column.heading)]));
  const blocks = grid.columns.flatMap((column, index) =>
    new Array<string>(marks(index) ? 2 : 1).fill(safeText(grid.blocks[column.block]!.heading)),
  );
  const rows = lines.map(({ line, index }) => {
    const cells = grid.cells[index]!.flatMap((cell, position) => {
      const text = cellText(cell, exponent);
      return marks(position) ? [text, 'favor' in cell ? (cell.favor ?? '') : ''] : [text];
    });
    return [safeText(line.key), safeText(line.account ?? ''), safeText(line.name), ...cells];
  });
  const notes = grid.head.footnotes.map((text) => ['', '', safeText(text)]);
  return stringify(
    [...title.map((text) => [safeText(text)]), ['', '', '', ...blocks], ['line', 'account', 'name', ...headings], ...rows, ...notes],
    { record_delimiter: 'windows' },
  );
}
