import { type LineTable, LineTableBuilder, minor, slotOfYear, type TableLine } from '@wise-margin/core';

import type { Database } from '../database/database.ts';
import type { Books } from './books.ts';

/** Few enough that other requests are answered between two reads. */
const ENTRIES_AT_ONCE = 1500;
const MILLISECONDS_A_DAY = 86_400_000;

/** Days since 1970-01-01 of an ISO date. */
const dayOf = (date: string): number => Date.parse(`${date}T00:00:00Z`) / MILLISECONDS_A_DAY;

/** What the table needs of a line, in the order of `LINE_VALUES`. */
type LineValues = readonly [
  line: number,
  entry: number,
  number: string,
  date: string,
  periodCode: number,
  position: number,
  amount: number,
  combination: number,
  party: string | null,
  source: string,
  state: string,
  importId: number | null,
  document: string,
  memo: string,
  kind: string,
];
const LINE_VALUES =
  'l.id, e.id, e.number, e.date, l.period_code, a.position, l.amount, l.combination_id, p.name, e.source, e.state, e.import_id, l.document, l.memo, e.kind';

/** Every line of a company's ledger, drafts included, read a part at a time. */
export async function loadLines(database: Database, books: Books): Promise<LineTable> {
  const builder = new LineTableBuilder();
  let last: { readonly date: string; readonly id: number } = { date: '', id: 0 };
  for (;;) {
    const entries: (typeof last)[] = await database.select(
      'SELECT date, id FROM entries WHERE company_id = $1 AND (date, id) > ($2, $3) ORDER BY date, id LIMIT $4',
      [books.id, last.date, last.id, ENTRIES_AT_ONCE],
    );
    for (const line of await linesOf(
      database,
      books,
      entries.map(({ id }) => id),
    ))
      builder.add(line);
    if (entries.length < ENTRIES_AT_ONCE) return builder.finish();
    last = entries.at(-1)!;
  }
}

/** The lines of some entries, in the order of the entries. One text for all of them is made beside this thread, and read much faster than a row at a time. */
export async function linesOf(database: Database, books: Books, entries: readonly number[]): Promise<TableLine[]> {
  const [found] = await database.select<{ lines: string | null }>(
    `SELECT group_concat(line) AS lines FROM (
       SELECT json_array(${LINE_VALUES}) AS line FROM json_each($1) j CROSS JOIN entries e ON e.id = j.value CROSS JOIN lines l ON l.entry_id = e.id
         JOIN accounts a ON a.id = l.account_id LEFT JOIN parties p ON p.id = l.party_id ORDER BY j.key, l.id)`,
    [JSON.stringify(entries)],
  );
  return (JSON.parse(`[${found!.lines ?? ''}]`) as LineValues[]).map(lineReader(books));
}

/** Rows as the table takes them. */
function lineReader(books: Books): (values: LineValues) => TableLine {
  const parties = new Map(books.parties.map((name, position) => [name, position]));
  const sources = new Map(books.sourceJournals.map((name, position) => [name, position]));
  const slots = new Map<number, number>();
  const days = new Map<string, number>();
  const dayHeld = (date: string): number => days.get(date) ?? days.set(date, dayOf(date)).get(date)!;
  const slotOf = (code: number): number => {
    const held = slots.get(code);
    if (held !== undefined) return held;
    const slot = slotOfYear(books.calendar, Math.floor(code / 100), code % 100);
    if (slot === null) throw new RangeError(`a line is in period ${code}, outside the fiscal years of ${books.name}`);
    slots.set(code, slot);
    return slot;
  };
  return ([line, entry, number, date, code, account, amount, combination, party, source, state, importId, document, memo, kind]) => ({
    line,
    entry,
    day: dayHeld(date),
    slot: slotOf(code),
    account,
    amount: minor(amount),
    combination,
    party: party === null ? -1 : parties.get(party)!,
    source: sources.get(source)!,
    isDraft: state === 'draft',
    isClosing: kind === 'closing',
    isManual: importId === null,
    text: `${number}\t${document}\t${memo}\t${party ?? ''}`,
  });
}
