import type { Minor } from './minor.ts';
import { roundToStep } from './round.ts';

/** How large the unit of a shown amount is. */
export type DisplayUnit = 'cents' | 'dollars' | 'thousands' | 'millions';
const POWERS: Readonly<Record<DisplayUnit, number>> = { cents: 0, dollars: 0, thousands: 3, millions: 6 };

/**
 * The exact decimal text of an amount, for files and scripts: no separators, `exponent` decimals.
 * @example toDecimalText(minor(-5), 2) // '-0.05'
 */
export function toDecimalText(value: Minor, exponent: number): string {
  const digits = String(Math.abs(value)).padStart(exponent + 1, '0');
  const sign = value < 0 ? '-' : '';
  return exponent === 0 ? sign + digits : `${sign}${digits.slice(0, -exponent)}.${digits.slice(-exponent)}`;
}

/** How an amount is written. */
export type AmountFormat = {
  /** decimals of the currency */
  readonly exponent: number;
  readonly unit: DisplayUnit;
  /** of the unit shown: 1.2 million; by default one for millions, none for thousands and whole units; `cents` shows them all */
  readonly decimals?: number | null;
  readonly negatives?: 'parentheses' | 'minus';
  /** stands before the figure: `$` */
  readonly sign?: string;
};

/**
 * The step amounts are rounded to, in minor units: 100,000 for thousands of dollars.
 * @example displayStep({ exponent: 2, unit: 'millions', decimals: 1 }) // 10_000_000
 */
export function displayStep({ exponent, unit, decimals }: Pick<AmountFormat, 'exponent' | 'unit' | 'decimals'>): number {
  return 10 ** (exponent + POWERS[unit] - decimalsOf({ exponent, unit, decimals: decimals ?? null }));
}

function decimalsOf({ exponent, unit, decimals }: { exponent: number; unit: DisplayUnit; decimals: number | null }): number {
  if (unit === 'cents') return exponent;
  return Math.max(0, Math.min(decimals ?? (unit === 'millions' ? 1 : 0), exponent + POWERS[unit]));
}

/**
 * An amount as shown: rounded half away from zero to the unit, thousands separated by commas,
 * negatives in parentheses or with a minus, zero as an en dash. `cents` shows every decimal of the
 * currency. An amount that rounds to nothing shows as 0, so that it differs from a true zero.
 * @example formatAmount(minor(-123456), { exponent: 2, unit: 'dollars' }) // '(1,235)'
 */
export function formatAmount(value: Minor, format: AmountFormat): string {
  if (value === 0) return '–';
  const { exponent, unit, negatives = 'parentheses', sign = '' } = format;
  const decimals = decimalsOf({ exponent, unit, decimals: format.decimals ?? null });
  const step = displayStep(format);
  const rounded = roundToStep(value, step);
  const text = toDecimalText((Math.abs(rounded) / step) as Minor, decimals);
  const [whole = '0', fraction] = text.split('.');
  const separated = sign + grouped(whole) + (fraction === undefined ? '' : `.${fraction}`);
  if (rounded >= 0) return separated;
  return negatives === 'minus' ? `−${separated}` : `(${separated})`;
}

/** Digits in groups of three: `1,234,567`. */
function grouped(digits: string): string {
  const first = digits.length % 3;
  const groups = first === 0 ? [] : [digits.slice(0, first)];
  for (let at = first; at < digits.length; at += 3) groups.push(digits.slice(at, at + 3));
  return groups.join(',');
}
