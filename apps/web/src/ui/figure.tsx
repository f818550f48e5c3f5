import { type CellDto } from '@wise-margin/contract';
import { type AmountFormat, formatAmount, type Minor } from '@wise-margin/core';
import { cellReasonWords, type FigureFormat, figureText } from '@wise-margin/presentation';

const isNegative = (text: string): boolean => text.startsWith('(') || text.startsWith('−');

/** An amount set so that its closing parenthesis hangs outside the column. */
export function Amount({
  value,
  exponent,
  unit = 'cents',
}: { readonly value: number } & Partial<AmountFormat> & { readonly exponent: number }) {
  const text = formatAmount(value as Minor, { exponent, unit });
  return <span className={text.endsWith(')') ? 'figure-text hangs' : 'figure-text'}>{text}</span>;
}

/** A cell of a statement. The reason of n/m or an empty cell is its title. */
export function CellFigure({
  cell,
  format,
  redNegatives = false,
}: {
  readonly cell: CellDto;
  readonly format: FigureFormat;
  readonly redNegatives?: boolean;
}) {
  const text = figureText(cell, format);
  const reason = cellReasonWords(cell);
  const hangs = text.endsWith(')') ? ' hangs' : '';
  const red = redNegatives && isNegative(text) ? ' text-brick' : '';
  return (
    <span className={`figure-text${hangs}${red}`} title={reason || undefined}>
      {text}
    </span>
  );
}

export const favorOf = (cell: CellDto): 'F' | 'U' | null => ('favor' in cell ? (cell.favor ?? null) : null);
export const favorColor = (favor: 'F' | 'U' | null): string => (favor === 'F' ? 'text-pine' : favor === 'U' ? 'text-brick' : '');
