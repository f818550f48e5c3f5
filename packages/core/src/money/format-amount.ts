import { roundToStep } from './round.ts';
import type { Minor } from './minor.ts';

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

/**
 * An amount as shown: rounded half away from zero to the unit, thousands separated by commas,
 * negatives in parentheses, zero as an en dash. `cents` shows every decimal of the currency.
 * An amount that rounds to nothing shows as 0, so that it is told apart from a true zero.
 * @param exponent decimals of the currency
 * @example formatAmount(minor(-123456), { exponent: 2, unit: 'dollars' }) // '(1,235)'
 */
export function formatAmount(value: Minor, options: { readonly exponent: number; readonly unit: DisplayUnit }): string {
  if (value === 0) return '–';
  const { exponent, unit } = options;
  const step = unit === 'cents' ? 1 : 10 ** (exponent + POWERS[unit]);
  const rounded = roundToStep(value, step);
  const size = Math.abs(rounded);
  const text = unit === 'cents' ? toDecimalText(size as Minor, exponent) : String(size / step);
  const [whole = '0', fraction] = text.split('.');
  const separated = whole.replaceAll(/\B(?=(\d{3})+$)/g, ',') + (fraction === undefined ? '' : `.${fraction}`);
  return rounded < 0 ? `(${separated})` : separated;
}
