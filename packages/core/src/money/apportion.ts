import { parseDecimal, toCommonScale } from './decimal.ts';
import { type Minor, minor } from './minor.ts';

/** Weights an amount cannot be shared by: none, a negative one, or all zero. */
export class ApportionError extends Error {
  override readonly name = 'ApportionError';
  constructor(readonly code: 'noWeights' | 'negativeWeight' | 'zeroWeights') {
    super(
      { noWeights: 'there is nothing to share among', negativeWeight: 'a weight is negative', zeroWeights: 'all weights are zero' }[code],
    );
  }
}

/**
 * Shares a total in proportion to weights, exactly: the largest remainder takes the last units,
 * ties go to the earliest. The parts always add up to the total; a weight of 0 gets 0; a negative
 * total is shared as its size and then negated. Weights are taken at their decimal value, so 0.1 is
 * one tenth.
 * Source: largest remainder (Hamilton) rule.
 * @param weights not negative, at least one above zero; the parts come in the same order
 * @throws ApportionError when there are no weights, a negative one, or only zeros
 * @example apportion(minor(100), [1, 1, 1]) // [34, 33, 33]
 */
export function apportion(total: Minor, weights: readonly number[]): Minor[] {
  return apportionWhole(total, toCommonScale(weights.map((weight) => parseDecimal(String(weight)))));
}

/**
 * As `apportion`, by whole weights of any size.
 * @throws ApportionError when there are no weights, a negative one, or only zeros
 */
export function apportionWhole(total: Minor, weights: readonly bigint[]): Minor[] {
  if (weights.length === 0) throw new ApportionError('noWeights');
  if (weights.some((weight) => weight < 0n)) throw new ApportionError('negativeWeight');
  const whole = weights.reduce((sum, weight) => sum + weight, 0n);
  if (whole === 0n) throw new ApportionError('zeroWeights');

  const size = BigInt(Math.abs(total));
  const parts = weights.map((weight) => (size * weight) / whole);
  const remainders = weights.map((weight) => (size * weight) % whole);
  let left = Number(size - parts.reduce((sum, part) => sum + part, 0n));
  const byRemainder = remainders
    .map((remainder, index) => ({ remainder, index }))
    .sort((a, b) => (a.remainder === b.remainder ? a.index - b.index : a.remainder > b.remainder ? -1 : 1));
  for (const { index } of byRemainder) {
    if (left === 0) break;
    parts[index]! += 1n;
    left -= 1;
  }
  const sign = total < 0 ? -1 : 1;
  return parts.map((part) => minor(sign * Number(part)));
}
