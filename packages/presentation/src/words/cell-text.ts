import type { CellDto } from '@wise-margin/contract';
import { type AmountFormat, formatAmount, type Minor } from '@wise-margin/core';

/** How the figures of a statement are written. */
export type FigureFormat = AmountFormat & {
  /** units of ratios beside them: `14.2%` */
  readonly withUnit?: boolean;
  /** decimals of percentages, ratios and quantities; by default one, two for a plain ratio */
  readonly ratioDecimals?: number | null;
};

// one for all: making one for each figure costs more than drawing it
const whole = new Intl.NumberFormat('en-US', { maximumFractionDigits: 0 });

/** With `decimals` decimals, half away from zero, negatives as amounts have them. */
function decimalText(
  value: number,
  { decimals, suffix, negatives }: { readonly decimals: number; readonly suffix: string; readonly negatives: FigureFormat['negatives'] },
): string {
  const scale = 10 ** decimals;
  const units = Math.floor(Math.abs(value) * scale + 0.5 + 1e-9);
  const before = whole.format(Math.floor(units / scale));
  const text = `${decimals > 0 ? `${before}.${String(units % scale).padStart(decimals, '0')}` : before}${suffix}`;
  if (value >= 0 || units === 0) return text;
  return negatives === 'minus' ? `−${text}` : `(${text})`;
}

/** A cell's text: the amount in its unit, a percentage with one decimal, a plain ratio with two, points, days, n/m, or nothing. */
export function figureText(cell: CellDto, format: FigureFormat): string {
  const { ratioDecimals = null, withUnit = false, negatives } = format;
  switch (cell.kind) {
    case 'amount':
      return formatAmount(cell.value as Minor, format);
    case 'quantity':
      return decimalText(cell.value, { decimals: ratioDecimals ?? (Number.isInteger(cell.value) ? 0 : 1), suffix: '', negatives });
    case 'ratio': {
      const decimals = ratioDecimals ?? (cell.unit === 'times' ? 2 : 1);
      if (cell.unit === 'percent') return decimalText(cell.value * 100, { decimals, suffix: withUnit ? '%' : '', negatives });
      if (cell.unit === 'points') return decimalText(cell.value * 100, { decimals, suffix: ' pts', negatives });
      return decimalText(cell.value, { decimals, suffix: cell.unit === 'days' ? ' d' : '', negatives });
    }
    case 'notMeaningful':
      return 'n/m';
    case 'blank':
      return '';
  }
}

/** The letter beside a figure; none beside what is shown as zero, where it would tell of nothing that can be seen. */
export function shownFavor(cell: CellDto, text: string): 'F' | 'U' | null {
  return 'favor' in cell && /[1-9]/.test(text) ? (cell.favor ?? null) : null;
}
