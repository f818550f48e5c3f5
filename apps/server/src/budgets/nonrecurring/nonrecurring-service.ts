import type { newNonrecurringItemSchema, NonrecurringItemDto } from '@wise-margin/contract';
import { firstSlot, lastSlot, minor, periodAt, periodOfKey, periodOfYear, signOf } from '@wise-margin/core';
import type { z } from 'zod';

import { type Books, type BooksCache, loadNonrecurring, type NonrecurringKey, periodCode } from '../../companies/index.ts';
import { type Actor, recordAudit } from '../../database/audit.ts';
import type { Database } from '../../database/database.ts';
import { notFound, refused } from '../../http/problem.ts';

type Row = {
  readonly id: number;
  readonly position: number;
  readonly period_code: number;
  readonly entry_id: number | null;
  readonly number: string | null;
  readonly description: string | null;
  readonly amount: number | null;
  readonly reason: string;
  readonly at: string;
  readonly actor: string;
};

/** What of the ledger is not recurring. A change of it counts the company's version up, for bases draw on it. */
export class NonrecurringService {
  readonly #database: Database;
  readonly #booksCache: BooksCache;

  constructor(database: Database, booksCache: BooksCache) {
    this.#database = database;
    this.#booksCache = booksCache;
  }

  /** Those of an account, or all, by account and month. */
  async list(companyId: number, account?: string): Promise<NonrecurringItemDto[]> {
    const books = await this.#booksCache.of(companyId);
    const rows = await this.#database.select<Row>(
      `SELECT o.id, a.position, o.period_code, o.entry_id, e.number, min(l.memo) AS description, sum(l.amount) AS amount, o.reason, o.at, o.actor
       FROM nonrecurring_items o JOIN accounts a ON a.id = o.account_id LEFT JOIN entries e ON e.id = o.entry_id
         LEFT JOIN lines l ON l.entry_id = o.entry_id AND l.account_id = o.account_id
       WHERE o.company_id = $1 AND ($2 = '' OR a.number = $2) GROUP BY o.id ORDER BY a.number, o.period_code, o.id`,
      [companyId, account ?? ''],
    );
    return rows.map((row) => toDto(books, row));
  }

  /** @throws ProblemError 422 for an account, month or entry that is not there, or one marked already */
  async add(companyId: number, request: z.output<typeof newNonrecurringItemSchema>, actor: Actor): Promise<NonrecurringItemDto[]> {
    const { account, period: key, entry, reason } = request;
    const books = await this.#booksCache.of(companyId);
    const { accountId, periodCode: code } = await this.#keyOf(books, request);
    const [marked] = await this.#database.select<{ id: number }>(
      'SELECT id FROM nonrecurring_items WHERE company_id = $1 AND account_id = $2 AND period_code = $3 AND coalesce(entry_id, 0) = $4',
      [companyId, accountId, code, entry ?? 0],
    );
    if (marked) throw refused('It is already excluded.', 'entry');
    await this.#database.write(async (transaction) => {
      await this.#database.run(
        'INSERT INTO nonrecurring_items (company_id, account_id, period_code, entry_id, reason, at, actor) VALUES ($1, $2, $3, $4, $5, $6, $7)',
        [companyId, accountId, code, entry ?? null, reason, actor.now().toISOString(), actor.name],
        transaction,
      );
      await this.#database.models.companies.increment('version', { where: { id: companyId }, transaction });
      const details = { account, period: key, entry: entry ?? null, reason };
      await recordAudit(
        this.#database,
        { companyId, actor, action: 'nonrecurringItem.add', subject: `account ${account}`, details },
        transaction,
      );
    });
    return this.list(companyId, account);
  }

  /** Books as they would be with further items excluded; nothing is written. @throws ProblemError 422 as when they are added */
  async booksExcluding(books: Books, requests: readonly z.output<typeof newNonrecurringItemSchema>[]): Promise<Books> {
    if (requests.length === 0) return books;
    const keys: NonrecurringKey[] = [];
    for (const request of requests) keys.push(await this.#keyOf(books, request));
    return { ...books, nonrecurring: await loadNonrecurring(this.#database, books, keys) };
  }

  /** @throws ProblemError 422 for an account, month or entry that is not there, or not posted */
  async #keyOf(books: Books, { account, period: key, entry }: z.output<typeof newNonrecurringItemSchema>): Promise<NonrecurringKey> {
    const position = books.chart.accounts.findIndex(({ number }) => number === account);
    if (position < 0) throw refused(`There is no account ${account}.`, 'account');
    const period = periodOfKey(books.calendar, key);
    if (period === null) throw refused(`${key} is outside the fiscal years of ${books.name}.`, 'period');
    const { year, number } = periodAt(books.calendar, period);
    const item = { accountId: books.accountIds[position]!, periodCode: periodCode(year, number), entryId: entry ?? null };
    if (entry === undefined) return item;
    const [found] = await this.#database.select<{ state: string; kind: string }>(
      'SELECT e.state, e.kind FROM entries e JOIN lines l ON l.entry_id = e.id WHERE e.id = $1 AND e.company_id = $2 AND l.account_id = $3 AND l.period_code = $4',
      [entry, books.id, item.accountId, item.periodCode],
    );
    if (!found) throw refused(`Entry ${entry} has no line in account ${account} in ${key}.`, 'entry');
    if (found.state !== 'posted' || found.kind === 'closing')
      throw refused(
        `Entry ${entry} is ${found.state === 'posted' ? 'a closing entry' : 'not posted'}. It is not part of the history.`,
        'entry',
      );
    return item;
  }

  /** Marks several; those marked already stay as they are. @throws ProblemError 422 as for a single one */
  async addAll(companyId: number, requests: readonly z.output<typeof newNonrecurringItemSchema>[], actor: Actor): Promise<void> {
    if (requests.length === 0) return;
    const known = new Set((await this.list(companyId)).map(({ account, period, entry }) => `${account} ${period} ${entry?.id ?? ''}`));
    for (const request of requests)
      if (!known.has(`${request.account} ${request.period} ${request.entry ?? ''}`)) await this.add(companyId, request, actor);
  }

  /** @throws ProblemError 404 */
  async remove(companyId: number, id: number, actor: Actor): Promise<void> {
    const [found] = await this.#database.select<{ id: number }>('SELECT id FROM nonrecurring_items WHERE id = $1 AND company_id = $2', [
      id,
      companyId,
    ]);
    if (!found) throw notFound(`nonrecurring item ${id}`);
    await this.#database.write(async (transaction) => {
      await this.#database.run('DELETE FROM nonrecurring_items WHERE id = $1', [id], transaction);
      await this.#database.models.companies.increment('version', { where: { id: companyId }, transaction });
      await recordAudit(
        this.#database,
        { companyId, actor, action: 'nonrecurringItem.remove', subject: `nonrecurring item ${id}`, details: {} },
        transaction,
      );
    });
  }
}

function toDto(books: Books, row: Row): NonrecurringItemDto {
  const account = books.chart.accounts[row.position]!;
  const period = periodOfYear(books.calendar, Math.floor(row.period_code / 100), row.period_code % 100)!;
  const posted =
    row.entry_id === null
      ? books.cube.slab({}).change(row.position, firstSlot(books.calendar, period), lastSlot(books.calendar, period))
      : (row.amount ?? 0);
  return {
    id: row.id,
    account: account.number,
    period: periodAt(books.calendar, period).key,
    entry: row.entry_id === null ? null : { id: row.entry_id, number: row.number ?? '', description: row.description ?? '' },
    amount: minor(signOf(account) * posted),
    reason: row.reason,
    at: row.at,
    actor: row.actor,
  };
}
