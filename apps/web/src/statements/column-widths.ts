import type { GridDto } from '@wise-margin/contract';
import type { ShownLine } from '@wise-margin/presentation';

import type { StatementFigures } from './statement-figures.ts';

/** The width of a figure's character, and what a column has beside its figures, in pixels. */
export const CHARACTER = 7.2;
export const PADDING = 22;
const BLOCK_GAP = 14;
const BAR = 52;
const MARK = 14;
/** A character of a heading in ordinary weight, and what a column of percentages has beside its figures. */
const SOFT_CHARACTER = 6.4;
const SOFT_PADDING = 13;

/** Widths of the columns in pixels, from the longest figure of each and the longest word of its heading. */
export function columnWidths(grid: GridDto, lines: readonly ShownLine[], figures: StatementFigures): number[] {
  return grid.columns.map((column, position) => {
    // the largest and the smallest figure are the longest ones: no need to write out every other
    const ends = new Map<string, readonly [ShownLine, ShownLine]>();
    const valueOf = ({ index }: ShownLine): number => {
      const cell = grid.cells[index]![position]!;
      return 'value' in cell ? cell.value : 0;
    };
    for (const line of lines) {
      const { kind } = grid.cells[line.index]![position]!;
      const [least, most] = ends.get(kind) ?? [line, line];
      ends.set(kind, [valueOf(line) < valueOf(least) ? line : least, valueOf(line) > valueOf(most) ? line : most]);
    }
    const longest = Math.max(column.width ?? 0, ...[...ends.values()].flat().map((line) => figures.text(line, position).length));
    const word = Math.max(...column.heading.split(/\s+/).map(({ length }) => length)) + (column.scenario ? 2 : 0);
    const startsBlock = position > 0 && grid.columns[position - 1]!.block !== column.block;
    const isSoft = column.kind === 'share' || column.kind === 'percentDifference';
    return Math.ceil(
      (isSoft ? Math.max(longest * CHARACTER, word * SOFT_CHARACTER) + SOFT_PADDING : Math.max(longest, word, 4) * CHARACTER + PADDING) +
        (startsBlock ? BLOCK_GAP : 0) +
        (column.kind === 'difference' ? MARK : 0) +
        (column.bar ? BAR : 0),
    );
  });
}
