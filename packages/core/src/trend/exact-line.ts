import { type Fraction, fraction } from '../money/fraction.ts';

/**
 * The straight line of `leastSquares` through whole amounts, in exact arithmetic.
 * @param values in order of time; null keeps its place and is left out
 * @returns the line's value at a time (0 is the first); null with fewer than two values
 */
export function exactLine(values: readonly (number | null)[]): ((time: number) => Fraction) | null {
  const points = values.flatMap((value, time) => (value === null ? [] : [{ time: BigInt(time), value: BigInt(value) }]));
  if (points.length < 2) return null;
  const count = BigInt(points.length);
  let [times, amounts, together, squares] = [0n, 0n, 0n, 0n];
  for (const { time, value } of points) {
    times += time;
    amounts += value;
    together += time * value;
    squares += time * time;
  }
  const denominator = count * squares - times * times;
  const slope = count * together - times * amounts;
  const intercept = amounts * squares - times * together;
  return (time) => fraction(intercept + slope * BigInt(time), denominator);
}
