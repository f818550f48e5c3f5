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

/** With `decimals` decimals, half away from zero; negatives in parentheses. */
function decimalText(value: number, decimals: number, suffix = ''): string {
  const scale = 10 ** decimals;
  const units = Math.floor(Math.abs(value) * scale + 0.5 + 1e-9);
  const whole = Math.floor(units / scale).toLocaleString('en-US');
  const text = `${decimals > 0 ? `${whole}.${String(units % scale).padStart(decimals, '0')}` : whole}${suffix}`;
  return value < 0 && units !== 0 ? `(${text})` : text;
}

/** A cell's text: the amount in its unit, a percentage with one decimal, a plain ratio with two, points, days, n/m, or nothing. */
export function cellText(
  cell: CellDto,
  options: { readonly exponent: number; readonly unit: DisplayUnit; readonly withSign?: boolean; readonly decimals?: number | null },
): string {
  switch (cell.kind) {
    case 'amount':
      return formatAmount(cell.value as Minor, options);
    case 'quantity':
      return decimalText(cell.value, options.decimals ?? (Number.isInteger(cell.value) ? 0 : 1));
    case 'ratio': {
      const decimals = options.decimals ?? (cell.unit === 'times' ? 2 : 1);
      if (cell.unit === 'percent') return decimalText(cell.value * 100, decimals, options.withSign ? '%' : '');
      if (cell.unit === 'points') return decimalText(cell.value * 100, decimals, ' pts');
      return decimalText(cell.value, decimals, cell.unit === 'days' ? ' d' : '');
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
  decimals = null,
}: {
  readonly cell: CellDto;
  readonly exponent: number;
  readonly unit: DisplayUnit;
  readonly withSign?: boolean;
  readonly decimals?: number | null;
}) {
  const text = cellText(cell, { exponent, unit, withSign, decimals });
  const reason = cellReasonWords(cell);
  return (
    <span className={text.endsWith(')') ? 'figure-text hangs' : 'figure-text'} title={reason || undefined}>
      {text}
    </span>
  );
}

export const favorOf = (cell: CellDto): 'F' | 'U' | null => ('favor' in cell ? (cell.favor ?? null) : null);
export const favorColor = (favor: 'F' | 'U' | null): string => (favor === 'F' ? 'text-pine' : favor === 'U' ? 'text-brick' : '');
