import type { Polarity } from '../chart/account-class.ts';
import { minor } from '../money/minor.ts';
import { blank, type Cell, notMeaningful } from '../statements/cell.ts';
import { favorOf } from './favor.ts';

const withFavor = <C extends Cell>(cell: C, difference: number, polarity: Polarity): C => {
  const favor = favorOf(difference, polarity);
  return favor ? { ...cell, favor } : cell;
};

/**
 * Compared less base. Two amounts give an amount, two quantities a quantity; two percentages give percentage points; two other
 * ratios give their own unit. Without both figures the difference is blank, and not meaningful when
 * either is.
 */
export function differenceOf(compared: Cell, base: Cell, polarity: Polarity): Cell {
  if (compared.kind === 'notMeaningful' || base.kind === 'notMeaningful') return notMeaningful('fromNotMeaningful');
  if (compared.kind === 'blank' || base.kind === 'blank') return blank('fromBlank');
  if (compared.kind === 'amount' && base.kind === 'amount') {
    const value = minor(compared.value - base.value);
    return withFavor({ kind: 'amount', value }, value, polarity);
  }
  if (compared.kind === 'ratio' && base.kind === 'ratio' && compared.unit === base.unit) {
    const value = compared.value - base.value;
    return withFavor({ kind: 'ratio', value, unit: compared.unit === 'percent' ? 'points' : compared.unit }, value, polarity);
  }
  if (compared.kind === 'quantity' && base.kind === 'quantity') {
    const value = compared.value - base.value;
    return withFavor({ kind: 'quantity', value }, value, polarity);
  }
  return blank('ratioLine');
}

/**
 * Difference over the size of the base, as a fraction. Base zero: not meaningful; zero against zero
 * and differences of ratios: blank.
 * @example 105 against 100 gives 0.05; -50 against -100 gives 0.5
 */
export function percentDifferenceOf(compared: Cell, base: Cell): Cell {
  if (compared.kind === 'notMeaningful' || base.kind === 'notMeaningful') return notMeaningful('fromNotMeaningful');
  if (compared.kind === 'blank' || base.kind === 'blank') return blank('fromBlank');
  if (compared.kind === 'ratio' || compared.kind !== base.kind) return blank('ratioLine');
  if (base.value === 0) return compared.value === 0 ? blank('bothZero') : notMeaningful('zeroBase');
  return { kind: 'ratio', value: (compared.value - base.value) / Math.abs(base.value), unit: 'percent' };
}

/**
 * Part over base, as a fraction: what share of the base line an amount is. Base zero: not
 * meaningful, blank when the part is zero too; ratio lines: blank.
 */
export function shareOf(part: Cell, base: Cell): Cell {
  if (part.kind === 'notMeaningful' || base.kind === 'notMeaningful') return notMeaningful('fromNotMeaningful');
  if (part.kind === 'blank' || base.kind === 'blank') return blank('fromBlank');
  if (part.kind === 'ratio' || part.kind !== base.kind) return blank('ratioLine');
  if (base.value === 0) return part.value === 0 ? blank('bothZero') : notMeaningful('zeroBase');
  // zero over a negative base is a plain zero
  return { kind: 'ratio', value: part.value === 0 ? 0 : part.value / base.value, unit: 'percent' };
}
