/** Stands for lines without a value of the dimension. */
const NONE = '(none)';
/** Stands for every value, whatever a view is filtered by. */
const ALL = '(all)';

const textOf = (value: string): string => (value === '' ? NONE : value);

/** One value of a dimension as a parameter. */
export const filterParameter = (dimension: string, value: string, prefix = 'filter'): [name: string, value: string] => [
  `${prefix}.${dimension}`,
  textOf(value),
];

/**
 * A filter as parameters of an address or a request, one for each value: `filter.department=Tours`. `(none)` stands
 * for lines without a value; `(all)`, for an empty list, takes every value even where a view is filtered by itself.
 */
export function filterParameters(filter: Readonly<Record<string, readonly string[]>>, prefix = 'filter'): [name: string, value: string][] {
  return Object.entries(filter).flatMap(([dimension, values]): [string, string][] =>
    values.length === 0 ? [[`${prefix}.${dimension}`, ALL]] : values.map((value) => filterParameter(dimension, value, prefix)),
  );
}

export const isFilterParameter = (name: string, prefix = 'filter'): boolean => name.startsWith(`${prefix}.`);

/** The filter that parameters hold; other parameters are ignored. */
export function readFilter(parameters: Iterable<readonly [name: string, value: string]>, prefix = 'filter'): Record<string, string[]> {
  const filter = new Map<string, string[]>();
  for (const [name, value] of parameters) {
    if (!isFilterParameter(name, prefix)) continue;
    const dimension = name.slice(prefix.length + 1);
    const values = filter.get(dimension) ?? [];
    filter.set(dimension, values);
    if (value !== ALL) values.push(value === NONE ? '' : value);
  }
  return Object.fromEntries(filter);
}
