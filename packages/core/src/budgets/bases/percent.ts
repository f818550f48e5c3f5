import { type Decimal, parseDecimal } from '../../money/decimal.ts';

/** A typed percentage as a decimal factor of what it is taken of; null when it is no number. `3` of a change is 1.03. */
export function changeFactor(percent: string): Decimal | null {
  const change = decimalOf(percent);
  return change && { digits: 100n * 10n ** BigInt(change.scale) + change.digits, scale: change.scale + 2 };
}
/** `41` of another line is 0.41; null when it is no number. */
export function shareFactor(percent: string): Decimal | null {
  const share = decimalOf(percent);
  return share && { digits: share.digits, scale: share.scale + 2 };
}
/** A typed number, such as a rate or pay; null when it is none. */
export function decimalOf(text: string): Decimal | null {
  return /^\s*[-+]?\d+(\.\d+)?\s*$/.test(text) ? parseDecimal(text.trim()) : null;
}

/** `plus 3%`, `minus 1.5%`, `unchanged`. */
export function changeWords(percent: string): string {
  const size = percent.trim().replace(/^[+-]/, '');
  return /^[0.]*$/.test(size) ? 'unchanged' : `${percent.trim().startsWith('-') ? 'minus' : 'plus'} ${size}%`;
}
