/**
 * A series with its base value as 100: how many percent of the base each value is. Missing values stay
 * missing; a base that is missing or zero gives nothing, since nothing can be measured against it.
 * @param base position in the series
 * @example indexToBase([50, null, 75], 0) // [100, null, 150]
 */
export function indexToBase(values: readonly (number | null)[], base: number): (number | null)[] {
  const size = values[base] ?? 0;
  return values.map((value) => (value === null || size === 0 ? null : (value / Math.abs(size)) * 100));
}
