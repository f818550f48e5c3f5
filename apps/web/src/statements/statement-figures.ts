import { type GridDto } from '@wise-margin/contract';
import { type FigureFormat, figureFormat, figureText, type ShownLine, signedLines } from '@wise-margin/presentation';

/** How every figure of a statement is written on screen. */
export type StatementFigures = {
  readonly format: (line: ShownLine, position: number) => FigureFormat;
  readonly text: (line: ShownLine, position: number) => string;
};

export function statementFigures(
  grid: GridDto,
  lines: readonly ShownLine[],
  options: { readonly exponent: number; readonly currencySign: string },
): StatementFigures {
  const signed = grid.display.currencySign ? signedLines(grid, lines) : new Set<string>();
  const format = ({ line }: ShownLine, position: number): FigureFormat =>
    figureFormat(grid, position, {
      exponent: options.exponent,
      sign: signed.has(line.key) ? options.currencySign : '',
      isFormula: line.kind === 'formula',
    });
  return { format, text: (line, position) => figureText(grid.cells[line.index]![position]!, format(line, position)) };
}
