/**
 * The middle of some numbers, the mean of the two middle ones for an even count; NaN for none. Any order.
 * @example medianOf([5, 1, 3]) // 3
 */
export function medianOf(values: ArrayLike<number>): number {
  const sorted = Float64Array.from(values).sort();
  const middle = sorted.length >> 1;
  if (sorted.length === 0) return NaN;
  return sorted.length % 2 === 1 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
}

/** Turns a median absolute deviation into the standard deviation of normally distributed values (Rousseeuw and Croux 1993). */
const OF_NORMAL = 1.4826;

/**
 * The spread of some numbers around their median, which a few wild ones do not widen: the median absolute deviation,
 * scaled to equal the standard deviation of normally distributed values. NaN for none, zero where half of them are alike.
 */
export function robustSpread(values: ArrayLike<number>, median = medianOf(values)): number {
  return OF_NORMAL * medianOf(Float64Array.from(values, (value) => Math.abs(value - median)));
}
