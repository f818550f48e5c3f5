/** A straight line through values at t = 0, 1, 2 …: `value = intercept + slope * t`. */
export type FittedLine = { readonly intercept: number; readonly slope: number; readonly at: (t: number) => number };

/**
 * Fits a straight line to values in order by ordinary least squares; missing values (null) are left out
 * and keep their place in time. Null with fewer than two values.
 * Source: the normal equations of simple linear regression.
 * @example leastSquares([1, 3, 5]).slope // 2
 */
export function leastSquares(values: readonly (number | null)[]): FittedLine | null {
  const points = values.flatMap((value, t) => (value === null ? [] : [{ t, value }]));
  if (points.length < 2) return null;
  const meanT = points.reduce((sum, { t }) => sum + t, 0) / points.length;
  const meanValue = points.reduce((sum, { value }) => sum + value, 0) / points.length;
  const together = points.reduce((sum, { t, value }) => sum + (t - meanT) * (value - meanValue), 0);
  const apart = points.reduce((sum, { t }) => sum + (t - meanT) ** 2, 0);
  const slope = together / apart;
  const intercept = meanValue - slope * meanT;
  return { intercept, slope, at: (t) => intercept + slope * t };
}
