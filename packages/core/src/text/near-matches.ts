/** How many single changes lead from one text to another: a letter more, less, another, or two neighbors swapped; case does not count. */
export function editDistance(a: string, b: string): number {
  const [from, to] = [a.toLowerCase(), b.toLowerCase()];
  const rows = [Array.from({ length: to.length + 1 }, (_, index) => index)];
  for (let i = 1; i <= from.length; i += 1) {
    const row = [i];
    for (let j = 1; j <= to.length; j += 1) {
      const changed = rows[i - 1]![j - 1]! + (from[i - 1] === to[j - 1] ? 0 : 1);
      const swapped = i > 1 && j > 1 && from[i - 1] === to[j - 2] && from[i - 2] === to[j - 1] ? rows[i - 2]![j - 2]! + 1 : Infinity;
      row.push(Math.min(rows[i - 1]![j]! + 1, row[j - 1]! + 1, changed, swapped));
    }
    rows.push(row);
  }
  return rows[from.length]![to.length]!;
}

/**
 * What was probably meant by a text that none of the values is: at most three, the nearest first. A
 * value is near when it begins with the text or holds it, or when about a third of the letters differ.
 * @example nearMatches('tuors', ['Tours', 'Store']) // ['Tours']
 */
export function nearMatches(text: string, values: readonly string[]): string[] {
  const wanted = text.trim().toLowerCase();
  if (wanted === '') return [];
  return values
    .map((value) => ({ value, distance: value.toLowerCase().includes(wanted) ? 0 : editDistance(wanted, value) }))
    .filter(({ value, distance }) => distance <= Math.max(1, Math.floor(Math.max(value.length, wanted.length) / 3)))
    .sort((a, b) => a.distance - b.distance)
    .slice(0, 3)
    .map(({ value }) => value);
}
