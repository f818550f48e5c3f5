import { formatAmount, minor, monthOfYearName, type PlacedLine, rowAmount, signOf } from '@wise-margin/core';

import type { LoggedChange } from '../../budget-store/index.ts';
import type { Books } from '../../companies/index.ts';

/**
 * The figures that are edited and that others changed: what stands there now, who made it so and when, by
 * account and month. What stands in a row that was typed over is the sum of the lines it was shared among.
 * @param at.cells ids of lines and months, `12:3`
 */
export function conflictWords(
  books: Books,
  at: {
    readonly year: number;
    readonly lines: readonly PlacedLine[];
    readonly cells: readonly string[];
    readonly others: readonly LoggedChange[];
  },
): ReadonlyMap<string, string> {
  const mine = new Set(at.cells);
  const byId = new Map(at.lines.map((line) => [line.id, line]));
  const placeOf = (cell: string): { readonly line: PlacedLine; readonly month: number } | null => {
    const [id, month] = cell.split(':').map(Number) as [number, number];
    const line = byId.get(id);
    return line ? { line, month } : null;
  };
  const standing = new Map<string, number>();
  for (const cell of mine) {
    const place = placeOf(cell);
    if (!place) continue;
    const key = `${place.line.position}:${place.month}`;
    standing.set(key, (standing.get(key) ?? 0) + rowAmount([place.line], place.month));
  }
  const words = new Map<string, string>();
  for (const { cells, actor, at: when } of at.others) {
    for (const cell of cells) {
      const place = placeOf(cell);
      if (!mine.has(cell) || !place) continue;
      const key = `${place.line.position}:${place.month}`;
      const account = books.chart.accounts[place.line.position]!;
      const now = minor(signOf(account) * standing.get(key)!);
      const amount = formatAmount(now, { exponent: books.currency.exponent, unit: 'cents' });
      const month = monthOfYearName(books.calendar, at.year, place.month);
      words.set(key, `${account.number} ${account.name}, ${month}: ${actor} entered ${amount} at ${when.slice(11, 16)}`);
    }
  }
  return words;
}
