/** Names in a sentence: "A", "A and B", "A, B and 3 more". */
export function inRow(names: readonly string[]): string {
  const [first, second, ...rest] = names;
  if (rest.length === 0) return names.join(' and ');
  return `${first}, ${second} and ${rest.length === 1 ? rest[0] : `${rest.length} more`}`;
}
