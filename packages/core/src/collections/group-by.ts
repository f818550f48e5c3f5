/** Values by a key, keys and values in the order in which they first come. */
export function groupBy<Value, Key>(values: readonly Value[], keyOf: (value: Value) => Key): Map<Key, Value[]> {
  const groups = new Map<Key, Value[]>();
  for (const value of values) {
    const key = keyOf(value);
    const held = groups.get(key);
    if (held) held.push(value);
    else groups.set(key, [value]);
  }
  return groups;
}
