import type { ListedLineDto } from '@wise-margin/contract';
import { type DimensionCombination, type LineTable, minor } from '@wise-margin/core';

import type { Books } from '../../companies/index.ts';
import type { Database } from '../../database/database.ts';

/** Lines of a table with everything a list shows of them, in the order given; lines that are gone by now are left out. */
export async function readLines(
  database: Database,
  { books, table, positions }: { readonly books: Books; readonly table: LineTable; readonly positions: Int32Array },
): Promise<ListedLineDto[]> {
  const rows = await database.select<{
    line: number;
    entry_id: number;
    number: string;
    date: string;
    amount: number;
    party: string | null;
    document: string;
    memo: string;
    due: string | null;
    source: string;
    kind: string;
    state: string;
    import_id: number | null;
  }>(
    `SELECT l.id AS line, l.entry_id, e.number, e.date, l.amount, p.name AS party, l.document, l.memo, l.due, e.source, e.kind, e.state, e.import_id
     FROM lines l JOIN entries e ON e.id = l.entry_id LEFT JOIN parties p ON p.id = l.party_id WHERE l.id IN (SELECT value FROM json_each($1))`,
    [JSON.stringify(Array.from(positions, (position) => table.line[position]))],
  );
  const byLine = new Map(rows.map((row) => [row.line, row]));
  return Array.from(positions).flatMap((position) => {
    const row = byLine.get(table.line[position]!);
    // reversed with its import since it was found
    if (!row) return [];
    const account = books.chart.accounts[table.account[position]!]!;
    return [
      {
        lineId: row.line,
        entryId: row.entry_id,
        entry: row.number,
        date: row.date,
        account: account.number,
        accountName: account.name,
        amount: minor(row.amount),
        party: row.party ?? '',
        document: row.document,
        memo: row.memo,
        due: row.due,
        source: row.source,
        kind: row.kind,
        state: row.state,
        importId: row.import_id,
        dimensions: { ...books.combinations.get(table.combination[position]!) } as DimensionCombination,
      },
    ];
  });
}
