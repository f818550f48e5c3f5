/** A value for each dimension a line carries; a dimension that is absent has no value (''). */
export type DimensionCombination = Readonly<Record<string, string>>;

/** Keeps lines whose value is one of those listed, for every dimension named; '' keeps lines without a value. */
export type DimensionFilter = Readonly<Record<string, readonly string[]>>;

export const NO_FILTER: DimensionFilter = {};

/** Whether a combination passes a filter. */
export function passes(filter: DimensionFilter, combination: DimensionCombination): boolean {
  return Object.entries(filter).every(([dimension, values]) => values.includes(combination[dimension] ?? ''));
}

/** Lines must pass both filters: values named in both are intersected. */
export function bothFilters(a: DimensionFilter, b: DimensionFilter): DimensionFilter {
  const joined: Record<string, readonly string[]> = { ...a };
  for (const [dimension, values] of Object.entries(b)) {
    const already = joined[dimension];
    joined[dimension] = already ? already.filter((value) => values.includes(value)) : values;
  }
  return joined;
}

/** A text equal for equal filters, whatever the order in which they were written. */
export function filterKey(filter: DimensionFilter): string {
  const known = keys.get(filter);
  if (known !== undefined) return known;
  const key = JSON.stringify(
    Object.entries(filter)
      .map(([dimension, values]) => [dimension, [...values].sort()])
      .sort(),
  );
  keys.set(filter, key);
  return key;
}
// filters are never changed once made, and the same one is asked for again and again
const keys = new WeakMap<DimensionFilter, string>();
