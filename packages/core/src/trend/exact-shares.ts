import { addFractions, type Fraction, fraction, NO_FRACTION } from '../money/fraction.ts';

/**
 * The mean of yearly shares, as `averageOfShares`, of whole amounts in exact arithmetic. Null without a year that has a total.
 * @returns one fraction a month; they add up to 1
 */
export function exactAverageOfShares(years: readonly (readonly number[])[]): Fraction[] | null {
  const held = years
    .map((months) => ({ months, total: months.reduce((sum, amount) => sum + amount, 0) }))
    .filter(({ total }) => total !== 0);
  if (held.length === 0) return null;
  return held[0]!.months.map((_, month) =>
    held.reduce<Fraction>(
      (sum, { months, total }) => addFractions(sum, fraction(months[month]!, BigInt(total) * BigInt(held.length))),
      NO_FRACTION,
    ),
  );
}

/** Fractions as whole weights of the same proportions; none negative where none was. */
export function wholeWeights(fractions: readonly Fraction[]): bigint[] {
  const common = fractions.reduce((product, { denominator }) => lcm(product, denominator), 1n);
  return fractions.map(({ numerator, denominator }) => numerator * (common / denominator));
}

const gcd = (a: bigint, b: bigint): bigint => (b === 0n ? a : gcd(b, a % b));
const lcm = (a: bigint, b: bigint): bigint => (a / gcd(a, b)) * b;
