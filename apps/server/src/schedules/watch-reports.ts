import type { Watch } from '@wise-margin/contract';
import { formatAmount, longPeriodName, type Minor, periodAt, type PeriodIndex, toDecimalText } from '@wise-margin/core';
import { dayWords } from '@wise-margin/presentation';

import { type Books, typedAccounts } from '../companies/index.ts';
import type { Database } from '../database/database.ts';
import type { TieOuts } from '../findings/index.ts';

/** What a watch report found: a line of words for each, and the same as a table. Nothing to say when there are no lines. */
export type WatchReport = {
  readonly lines: readonly string[];
  readonly table: { readonly headings: readonly string[]; readonly rows: readonly (readonly string[])[] };
};
export type WatchTimes = {
  /** the moment of the report before; null for the first one, which looks at everything */
  readonly since: number | null;
  readonly until: number;
  readonly asOf: PeriodIndex;
};
type Posting = {
  readonly number: string;
  readonly date: string;
  readonly account: string;
  readonly name: string;
  readonly amount: number;
  readonly memo: string;
  readonly at: string;
  readonly actor: string;
};

export const WATCH_NAMES: Readonly<Record<Watch['kind'], string>> = {
  postings: 'Postings to watched accounts',
  tieOuts: 'Tie-outs that fail',
  drafts: 'Draft entries',
};

/** Reports on what should not be there. */
export class WatchReports {
  readonly #parts: { readonly database: Database; readonly tieOuts: TieOuts };

  constructor(parts: { readonly database: Database; readonly tieOuts: TieOuts }) {
    this.#parts = parts;
  }

  report(books: Books, watch: Watch, times: WatchTimes): Promise<WatchReport> {
    switch (watch.kind) {
      case 'postings':
        return this.#postings(books, watch.accounts, times);
      case 'tieOuts':
        return this.#tieOuts(books, times);
      case 'drafts':
        return this.#drafts(books, times);
    }
  }

  /**
   * What was posted to accounts since the report before, with entry, person and time; a correction that moves a line there
   * counts as posted when it was made.
   * @throws ProblemError 422 for accounts that are not there
   */
  async #postings(books: Books, accounts: string, { since, until }: WatchTimes): Promise<WatchReport> {
    const positions = typedAccounts(books, accounts) ?? new Set<number>();
    const rows = await this.#parts.database.select<Posting>(
      `WITH touched AS (
         SELECT e.id, i.posted_at AS at, i.actor FROM entries e JOIN imports i ON i.id = e.import_id WHERE e.company_id = $1
         UNION ALL
         SELECT v.entry_id, c.at, c.actor FROM entry_versions v JOIN entry_changes c ON c.id = v.change_id WHERE c.company_id = $1),
       -- the person is that of the latest change
       latest AS (SELECT id, max(at) AS at, actor FROM touched WHERE at <= $3 GROUP BY id)
       SELECT e.number, e.date, a.number AS account, a.name, l.amount, l.memo, t.at, t.actor
       FROM lines l JOIN accounts a ON a.id = l.account_id JOIN entries e ON e.id = l.entry_id JOIN latest t ON t.id = e.id
       WHERE l.account_id IN (SELECT value FROM json_each($2)) AND e.state = 'posted' AND t.at > $4
       ORDER BY t.at, e.id, l.id`,
      [
        books.id,
        JSON.stringify([...positions].map((position) => books.accountIds[position])),
        new Date(until).toISOString(),
        since === null ? '' : new Date(since).toISOString(),
      ],
    );
    const { exponent, sign } = books.currency;
    return {
      lines: rows.map(
        ({ number, date, account, name, amount, memo, at, actor }) =>
          `${account} ${name}: ${formatAmount(amount as Minor, { exponent, unit: 'cents', sign })}, entry ${number} of ${dayWords(date)}${memo === '' ? '' : `, "${memo}"`}; posted by ${actor}, ${momentWords(at)}`,
      ),
      table: {
        headings: ['account', 'name', 'amount', 'entry', 'date', 'memo', 'posted by', 'posted at'],
        rows: rows.map(({ number, date, account, name, amount, memo, at, actor }) => [
          ...[account, name, toDecimalText(amount as Minor, exponent), number, date, memo, actor, at],
        ]),
      },
    };
  }

  async #tieOuts(books: Books, { asOf }: WatchTimes): Promise<WatchReport> {
    const { tieOuts } = await this.#parts.tieOuts.list(books.id, periodAt(books.calendar, asOf).key);
    const failing = tieOuts.filter(({ agrees }) => !agrees);
    return {
      lines: failing.map(({ name }) => `Tie-out fails at ${longPeriodName(books.calendar, asOf)}: ${name}`),
      table: { headings: ['tie-out', 'month'], rows: failing.map(({ name }) => [name, periodAt(books.calendar, asOf).key]) },
    };
  }

  async #drafts(books: Books, { asOf }: WatchTimes): Promise<WatchReport> {
    const { end } = periodAt(books.calendar, asOf);
    const rows = await this.#parts.database.select<{ number: string; date: string; lines: number }>(
      `SELECT e.number, e.date, count(l.id) AS lines FROM entries e LEFT JOIN lines l ON l.entry_id = e.id
       WHERE e.company_id = $1 AND e.state = 'draft' AND e.date <= $2 GROUP BY e.id ORDER BY e.date, e.number`,
      [books.id, end],
    );
    return {
      lines: rows.map(({ number, date, lines }) => `Draft entry ${number} of ${dayWords(date)} is not posted (${lines} lines)`),
      table: { headings: ['entry', 'date', 'lines'], rows: rows.map(({ number, date, lines }) => [number, date, String(lines)]) },
    };
  }
}

/** A moment by universal time, since a mail is read anywhere: `Nov 9, 2026, 12:00 UTC`. */
const momentWords = (at: string): string => `${dayWords(at.slice(0, 10))}, ${at.slice(11, 16)} UTC`;
