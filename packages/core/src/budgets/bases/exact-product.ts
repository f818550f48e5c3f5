import type { Decimal } from '../../money/decimal.ts';
import { type Minor, minor } from '../../money/minor.ts';

/**
 * The product of decimal numbers over a divisor, rounded half away from zero to a whole number of minor
 * units; exact on the way.
 * @param divisor a whole number above zero
 */
export function exactProduct(factors: readonly Decimal[], divisor = 1): Minor {
  const digits = factors.reduce((product, factor) => product * factor.digits, 1n);
  const scale = factors.reduce((sum, factor) => sum + factor.scale, 0);
  const base = 10n ** BigInt(scale) * BigInt(divisor);
  const size = digits < 0n ? -digits : digits;
  const rounded = Number((size * 2n + base) / (base * 2n));
  return minor(digits < 0n ? -rounded : rounded);
}
