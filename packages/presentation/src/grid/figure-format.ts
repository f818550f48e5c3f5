import type { GridDto } from '@wise-margin/contract';

import type { FigureFormat } from '../words/cell-text.ts';

/**
 * How the figures of a column are written on a line, from the display choices of the statement.
 * @param options.sign what stands before amounts of the line; empty without one
 */
export function figureFormat(
  { display, columns }: Pick<GridDto, 'display' | 'columns'>,
  position: number,
  options: { readonly exponent: number; readonly sign: string; readonly isFormula: boolean },
): FigureFormat {
  const column = columns[position]!;
  return {
    exponent: options.exponent,
    unit: display.unit,
    decimals: display.decimals,
    negatives: display.negatives === 'minus' ? 'minus' : 'parentheses',
    sign: options.sign,
    ratioDecimals: column.decimals,
    withUnit: options.isFormula && (column.kind === 'amount' || column.kind === 'benchmark'),
  };
}
