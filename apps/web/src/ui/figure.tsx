import { formatAmount, type DisplayUnit, type Minor } from '@wise-margin/core';
import { cellReasonWords, type CellDto } from '@wise-margin/contract';

/** An amount set so that its closing parenthesis hangs outside the column. */
export function Amount({
  value,
  exponent,
  unit = 'cents',
}: {
  readonly value: number;
  readonly exponent: number;
  readonly unit?: DisplayUnit;
}) {
  const text = formatAmount(value as Minor, { exponent, unit });
  return <span className={text.endsWith(')') ? 'figure-text hangs' : 'figure-text'}>{text}</span>;
}

/** One decimal, half away from zero; negatives in parentheses. */
function decimalText(value: number, suffix = ''): string {
  const tenths = Math.floor(Math.abs(value) * 10 + 0.5 + 1e-9);
  const text = `${Math.floor(tenths / 10).toLocaleString('en-US')}.${tenths % 10}${suffix}`;
  return value < 0 && tenths !== 0 ? `(${text})` : text;
}

/** A cell's text: the amount in its unit, a percentage with one decimal, points, n/m, or nothing. */
export function cellText(
  cell: CellDto,
  options: { readonly exponent: number; readonly unit: DisplayUnit; readonly withSign?: boolean },
): string {
  switch (cell.kind) {
    case 'amount':
      return formatAmount(cell.value as Minor, options);
    case 'ratio': {
      if (cell.unit === 'percent') return decimalText(cell.value * 100, options.withSign ? '%' : '');
      if (cell.unit === 'points') return decimalText(cell.value * 100, ' pts');
      return decimalText(cell.value, cell.unit === 'days' ? ' d' : '');
    }
    case 'notMeaningful':
      return 'n/m';
    case 'blank':
      return '';
  }
}

/** A cell of a statement: figure, and the letter of its favor. The reason of n/m or an empty cell is its title. */
export function CellFigure({
  cell,
  exponent,
  unit,
  withSign = false,
}: {
  readonly cell: CellDto;
  readonly exponent: number;
  readonly unit: DisplayUnit;
  readonly withSign?: boolean;
}) {
  const text = cellText(cell, { exponent, unit, withSign });
  const reason = cellReasonWords(cell);
  return (
    <span className={text.endsWith(')') ? 'figure-text hangs' : 'figure-text'} title={reason || undefined}>
      {text}
    </span>
  );
}

export const favorOf = (cell: CellDto): 'F' | 'U' | null => ('favor' in cell ? (cell.favor ?? null) : null);
export const favorColor = (favor: 'F' | 'U' | null): string => (favor === 'F' ? 'text-pine' : favor === 'U' ? 'text-brick' : '');
