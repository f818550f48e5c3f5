import type { AmountRange } from '@wise-margin/core';

import type { Database } from '../database/database.ts';

/** Few enough that other writers wait a moment only. */
const ENTRIES_AT_ONCE = 2000;
/** As many entries can be indexed before an answer without being felt. */
const FEW = 400;
/** As many lines of an amount are read and put in order at once; of more, the newest are met soon. */
const RARE = 5000;
/** Lines of one entry that may have the same amount: both sides, and some more. */
const LINES_AN_ENTRY = 4;
/** Julian day of 1970-01-01; days are counted from there, in 16 bits. */
const DAY_1970 = 2_440_588;
const PENDING = `SELECT entry_id FROM entry_texts_pending ORDER BY entry_id DESC LIMIT $1`;

/** An entry that was found: what a list shows of it. `amount` is the sum of its debits, in minor units. */
export type FoundEntry = {
  readonly id: number;
  readonly number: string;
  readonly date: string;
  readonly state: string;
  readonly amount: number;
  readonly party: string;
  readonly document: string;
  readonly memo: string;
};

/** The full-text index of entries: numbers, documents, customers and vendors, memos. It follows the ledger a part at a time. */
export class EntryIndex {
  readonly #database: Database;
  #following: Promise<void> | null = null;
  #isClosed = false;

  constructor(database: Database) {
    this.#database = database;
  }

  /** Entries that the index does not have yet as they are now. A few are taken over first; more go on being taken over meanwhile. */
  async pending(): Promise<number> {
    const [row] = await this.#database.select<{ count: number }>('SELECT count(*) AS count FROM entry_texts_pending');
    if (row!.count === 0) return 0;
    const following = this.follow();
    if (row!.count > FEW) {
      // whoever searches next hears how far it is; a failure is met by the next search, which follows again
      following.catch(() => undefined);
      return row!.count;
    }
    await following;
    return 0;
  }

  /** Takes over everything pending, the newest entries first. */
  follow(): Promise<void> {
    this.#following ??= this.#followAll().finally(() => {
      this.#following = null;
    });
    return this.#following;
  }

  /** Stops following; what is left is taken over when the application is next open. */
  async close(): Promise<void> {
    this.#isClosed = true;
    await this.#following?.catch(() => undefined);
  }

  async #followAll(): Promise<void> {
    while (!this.#isClosed && (await this.#followSome()) > 0);
  }

  #followSome(): Promise<number> {
    const { select, run } = this.#database;
    return this.#database.write(async (transaction) => {
      const pending = await select<{ entry_id: number }>(PENDING, [ENTRIES_AT_ONCE], transaction);
      if (pending.length === 0) return 0;
      const ids = JSON.stringify(pending.map(({ entry_id }) => entry_id));
      const of = (column: string) => `${column} IN (SELECT value FROM json_each($1))`;
      const statements = [
        `DELETE FROM entry_texts WHERE rowid IN (SELECT text_row FROM entry_text_rows WHERE ${of('entry_id')})`,
        `DELETE FROM entry_text_rows WHERE ${of('entry_id')}`,
        `INSERT INTO entry_text_rows SELECT id, (company_id << 48) + (max(CAST(julianday(date) AS INTEGER) - ${DAY_1970}, 0) << 32) + id FROM entries
         WHERE ${of('id')} AND state <> 'discarded'`,
        `INSERT INTO entry_texts (rowid, number, document, party, memo)
         SELECT r.text_row, e.number, group_concat(DISTINCT l.document), group_concat(DISTINCT p.name), group_concat(DISTINCT l.memo)
         FROM entry_text_rows r JOIN entries e ON e.id = r.entry_id JOIN lines l ON l.entry_id = e.id LEFT JOIN parties p ON p.id = l.party_id
         WHERE ${of('r.entry_id')} GROUP BY r.entry_id`,
        `DELETE FROM entry_texts_pending WHERE ${of('entry_id')}`,
      ];
      for (const statement of statements) await run(statement, [ids], transaction);
      return pending.length;
    });
  }

  /**
   * The newest entries of a company whose texts have each of the words; where they are few, also those with words that
   * only begin so.
   */
  async find(companyId: number, words: readonly string[], most: number): Promise<FoundEntry[]> {
    const whole = await this.#matching(companyId, matchQuery(words, ''), most);
    const found = whole.length >= most ? whole : await this.#matching(companyId, matchQuery(words, '*'), most);
    return this.read(found);
  }

  async #matching(companyId: number, query: string, most: number): Promise<number[]> {
    if (query === '') return [];
    const rows = await this.#database.select<{ id: number }>(
      `SELECT rowid & 4294967295 AS id FROM entry_texts WHERE entry_texts MATCH $1 AND rowid BETWEEN ($2 << 48) AND ($2 << 48) + 281474976710655 ORDER BY rowid DESC LIMIT $3`,
      [query, companyId, most],
    );
    return rows.map(({ id }) => id);
  }

  /** The newest entries of a company with a line of such an amount, whichever its sign; the amount of that line is the one shown. */
  async ofAmount(companyId: number, { least, most }: AmountRange, count: number): Promise<FoundEntry[]> {
    const ends = [least, Math.min(most, Number.MAX_SAFE_INTEGER)];
    const [few] = await this.#database.select<{ count: number }>(
      'SELECT count(*) AS count FROM (SELECT 1 FROM lines WHERE abs(amount) BETWEEN $1 AND $2 LIMIT $3)',
      [...ends, RARE + 1],
    );
    // many are soon met from the newest entry on; few are all looked up by their amount
    const order = few!.count > RARE ? 'entries e CROSS JOIN lines l' : 'lines l CROSS JOIN entries e';
    const rows = await this.#database.select<{ id: number; amount: number }>(
      `SELECT e.id, abs(l.amount) AS amount FROM ${order} ON l.entry_id = e.id
       WHERE e.company_id = $1 AND e.state <> 'discarded' AND abs(l.amount) BETWEEN $2 AND $3 ORDER BY e.date DESC, e.id DESC LIMIT $4`,
      [companyId, ...ends, count * LINES_AN_ENTRY],
    );
    const amounts = new Map<number, number>();
    for (const { id, amount } of rows) if (!amounts.has(id) && amounts.size < count) amounts.set(id, amount);
    return (await this.read([...amounts.keys()])).map((entry) => ({ ...entry, amount: amounts.get(entry.id)! }));
  }

  /** Entries in the order given; those that are gone by now are left out. */
  read(entries: readonly number[]): Promise<FoundEntry[]> {
    return this.#database.select<FoundEntry>(
      `SELECT e.id, e.number, e.date, e.state, sum(max(l.amount, 0)) AS amount, coalesce(max(p.name), '') AS party, max(l.document) AS document, max(l.memo) AS memo
       FROM json_each($1) j JOIN entries e ON e.id = j.value JOIN lines l ON l.entry_id = e.id LEFT JOIN parties p ON p.id = l.party_id
       GROUP BY e.id ORDER BY j.key`,
      [JSON.stringify(entries)],
    );
  }
}

/** Words as the index is asked for them, with the parts of `D-4471` next to one another. @param ending `*` for words that begin so */
function matchQuery(words: readonly string[], ending: '' | '*'): string {
  return words.map((word) => `"${word.replaceAll('"', '""')}"${ending}`).join(' AND ');
}
