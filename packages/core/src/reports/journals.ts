import type { LineTable } from '../ledger/line-table.ts';
import { type Minor, minor } from '../money/minor.ts';
import { type CountedLines, countsLine, placeIn } from './account-movements.ts';
import type { ReportRange } from './read-range.ts';

/** The entries of one source journal over a range. */
export type JournalEntries = {
  /** position in the list of journals */
  readonly source: number;
  readonly entries: number;
  readonly debits: Minor;
  /** without a sign */
  readonly credits: Minor;
  /** positions in the table, in order of date and entry */
  readonly lines: Int32Array;
};

/** The lines of a range by source journal, in the order of the list of journals; journals without a line are left out. */
export function journalEntries(
  table: LineTable,
  { range, counted }: { readonly range: ReportRange; readonly counted: CountedLines },
): JournalEntries[] {
  const [place, counts] = [placeIn(table, range), countsLine(table, counted)];
  const lines = new Map<number, number[]>();
  for (let position = 0; position < table.count; position += 1) {
    const source = table.source[position]!;
    if (place(position) !== 0 || !counts(position)) continue;
    const own = lines.get(source);
    if (own) own.push(position);
    else lines.set(source, [position]);
  }
  return [...lines]
    .sort(([a], [b]) => a - b)
    .map(([source, own]) => {
      const amounts = own.map((position) => table.amount[position]!);
      return {
        source,
        entries: new Set(own.map((position) => table.entry[position]!)).size,
        debits: minor(amounts.reduce((sum, amount) => sum + Math.max(0, amount), 0)),
        credits: minor(amounts.reduce((sum, amount) => sum - Math.min(0, amount), 0)),
        lines: Int32Array.from(own),
      };
    });
}
