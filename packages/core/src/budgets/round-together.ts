import { floorFraction, type Fraction, roundFraction, sumFractions } from '../money/fraction.ts';
import { type Minor, minor } from '../money/minor.ts';

/**
 * Rounds the months of an account's lines to a step so that they add up to the account's rounded year:
 * the exact total is rounded once, its units go to the lines and then to their months by largest
 * remainder, ties to the first. Each month stays within one step of its exact amount.
 * Source: largest remainder (Hamilton) rule.
 * @param lines exact months of each line, minor units
 * @param step minor units, above 1
 * @returns months of each line, in the same order
 */
export function roundTogether(lines: readonly (readonly Fraction[])[], step: number): Minor[][] {
  const unit = BigInt(step);
  const years = lines.map(sumFractions);
  const total = BigInt(roundFraction(sumFractions(years), step) / step);
  return shareUnits(years, unit, total).map((units, line) =>
    shareUnits(lines[line]!, unit, units).map((each) => minor(Number(each) * step)),
  );
}

/** Whole units of each part that add up to a total: rounded down, the rest to the largest remainders. */
function shareUnits(parts: readonly Fraction[], unit: bigint, total: bigint): bigint[] {
  const units = parts.map((part) => floorFraction(part, unit));
  const remainders = parts.map(({ numerator, denominator }, index) => ({
    index,
    numerator: numerator - units[index]! * unit * denominator,
    denominator,
  }));
  remainders.sort((a, b) => {
    const [left, right] = [a.numerator * b.denominator, b.numerator * a.denominator];
    return left === right ? a.index - b.index : left > right ? -1 : 1;
  });
  let left = total - units.reduce((sum, each) => sum + each, 0n);
  for (const { index } of remainders) {
    if (left <= 0n) break;
    units[index]! += 1n;
    left -= 1n;
  }
  return units;
}
