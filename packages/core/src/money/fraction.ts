import type { Decimal } from './decimal.ts';
import { type Minor, minor } from './minor.ts';

/** A rational number held exactly; the denominator is above zero. */
export type Fraction = { readonly numerator: bigint; readonly denominator: bigint };

/** A quotient of whole numbers. @throws RangeError when the denominator is zero */
export function fraction(numerator: bigint | number, denominator: bigint | number = 1n): Fraction {
  const [n, d] = [BigInt(numerator), BigInt(denominator)];
  if (d === 0n) throw new RangeError('a fraction over zero');
  return d < 0n ? { numerator: -n, denominator: -d } : { numerator: n, denominator: d };
}

export const NO_FRACTION: Fraction = { numerator: 0n, denominator: 1n };

export function addFractions(a: Fraction, b: Fraction): Fraction {
  if (a.denominator === b.denominator) return { numerator: a.numerator + b.numerator, denominator: a.denominator };
  return { numerator: a.numerator * b.denominator + b.numerator * a.denominator, denominator: a.denominator * b.denominator };
}

export function multiplyFractions(a: Fraction, b: Fraction): Fraction {
  return { numerator: a.numerator * b.numerator, denominator: a.denominator * b.denominator };
}

/** The sum of fractions; zero without any. */
export const sumFractions = (all: readonly Fraction[]): Fraction => all.reduce(addFractions, NO_FRACTION);

/** A decimal as a fraction. */
export const fractionOf = ({ digits, scale }: Decimal): Fraction => ({ numerator: digits, denominator: 10n ** BigInt(scale) });

/** The largest whole number of steps not above a fraction. */
export function floorFraction({ numerator, denominator }: Fraction, step = 1n): bigint {
  const unit = denominator * step;
  const quotient = numerator / unit;
  return numerator < 0n && quotient * unit !== numerator ? quotient - 1n : quotient;
}

/**
 * The multiple of a step next to a fraction, half away from zero, in one rounding.
 * @param step whole and above zero
 * @throws AmountOverflowError when the result is past the exact range of money
 * Minus 149.5 gives minus 150.
 */
export function roundFraction({ numerator, denominator }: Fraction, step = 1): Minor {
  const unit = denominator * BigInt(step);
  const size = numerator < 0n ? -numerator : numerator;
  const steps = (size * 2n + unit) / (unit * 2n);
  return minor(Number(numerator < 0n ? -steps : steps) * step);
}
