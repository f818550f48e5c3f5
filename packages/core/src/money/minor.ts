declare const minorBrand: unique symbol;

/**
 * Money as a whole number of minor units (cents for USD), debit positive where it comes from the
 * ledger. Held in a double, which is exact for whole numbers up to 2^53 - 1.
 */
export type Minor = number & { readonly [minorBrand]: 'minor' };

/** The largest amount, in minor units, that the product accepts: 9e15 (9e13 dollars). */
export const LARGEST_MINOR = 9e15;

/** A sum or product left the range in which whole numbers are exact. */
export class AmountOverflowError extends Error {
  override readonly name = 'AmountOverflowError';
  constructor(readonly value: number) {
    super(`${value} minor units is outside the exact range of money`);
  }
}

/**
 * Marks a whole number as minor units; minus zero becomes zero.
 * @throws AmountOverflowError when the number is not whole or not exact.
 * @example minor(1250) // 12.50 in USD
 */
export function minor(value: number): Minor {
  if (!Number.isSafeInteger(value)) throw new AmountOverflowError(value);
  return (value === 0 ? 0 : value) as Minor;
}

export const ZERO = 0 as Minor;
