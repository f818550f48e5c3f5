import type { EntryChangeDto } from '@wise-margin/contract';
import type { Transaction } from 'sequelize';

import { type Books, type BooksCache, detailedSums, refuseClosedPeriods } from '../../companies/index.ts';
import { type Actor, recordAudit } from '../../database/audit.ts';
import type { AuditChange } from '../../database/audit-chain.ts';
import type { Database } from '../../database/database.ts';
import { ProblemError } from '../../http/problem.ts';
import { changedPeriods, gainedFacts, postToBalances, sumsOfEntries } from './posted-facts.ts';
import { keepVersions } from './stored-entries.ts';

const MOST_RECORDED = 100;

/** A change of entries as it is written and recorded. */
export type EntryChange = {
  readonly kind: EntryChangeDto['kind'];
  readonly reason: string;
  readonly actor: Actor;
  readonly ids: readonly number[];
  readonly subject: string;
  readonly details: object;
  readonly changes: readonly AuditChange[];
  /** the version of each entry that is to be replaced */
  readonly expected: ReadonlyMap<number, number>;
  /** the change it undoes */
  readonly undoes?: number;
  /** changes entries and lines within the transaction */
  readonly mutate: (transaction: Transaction) => Promise<Mutation>;
};

/** What a change did. */
export type Mutation = {
  /** customers, vendors, journals or dimension values are new: the books are read again */
  readonly hasNewNames: boolean;
  /** entries that were made */
  readonly made?: readonly number[];
  /** the numbers of those, for the record */
  readonly numbers?: readonly string[];
};

/** Writes changes of entries: versions kept, balances moved, the record added, all of it or none. */
export class ChangeWriter {
  readonly #database: Database;
  readonly #booksCache: BooksCache;

  constructor(database: Database, booksCache: BooksCache) {
    this.#database = database;
    this.#booksCache = booksCache;
  }

  /** @returns the entries changed and made. @throws ProblemError 409 when an entry has another version than expected, or lies in a closed period */
  async write(books: Books, change: EntryChange): Promise<readonly number[]> {
    const { kind, reason, actor, ids, expected, undoes = null } = change;
    const companyId = books.id;
    const read = this.#booksCache.actualsRead(books);
    const done = await this.#database.write(async (transaction) => {
      await this.#refuseChanged(expected, transaction);
      const at = actor.now().toISOString();
      await this.#database.run(
        'INSERT INTO entry_changes (company_id, at, actor, kind, reason, entries, undoes) VALUES ($1, $2, $3, $4, $5, $6, $7)',
        [companyId, at, actor.name, kind, reason, ids.length, undoes],
        transaction,
      );
      const [made] = await this.#database.select<{ id: number }>('SELECT max(id) AS id FROM entry_changes', [], transaction);
      await keepVersions(this.#database, { change: made!.id, ids }, transaction);
      const before = await sumsOfEntries(this.#database, ids, transaction);
      const detailBefore = await detailedSums(this.#database, ids, transaction);
      await postToBalances(this.#database, { companyId, ids, sign: -1 }, transaction);
      const { hasNewNames, made: added = [], numbers = [] } = await change.mutate(transaction);
      await this.#database.run(
        'UPDATE entries SET version = version + 1 WHERE id IN (SELECT value FROM json_each($1))',
        [JSON.stringify(ids)],
        transaction,
      );
      await this.#keepMade({ change: made!.id, ids: added }, transaction);
      const all = [...ids, ...added];
      await postToBalances(this.#database, { companyId, ids: all, sign: 1 }, transaction);
      const after = await sumsOfEntries(this.#database, all, transaction);
      await refuseClosedPeriods(this.#database, { companyId, person: actor.name, codes: changedPeriods(before, after) }, transaction);
      await this.#database.run('DELETE FROM balances WHERE company_id = $1 AND debit = 0 AND credit = 0', [companyId], transaction);
      if (undoes !== null)
        await this.#database.run('UPDATE entry_changes SET undone_by = $1 WHERE id = $2', [made!.id, undoes], transaction);
      await this.#database.models.companies.increment('version', { where: { id: companyId }, transaction });
      const changes = change.changes.slice(0, MOST_RECORDED);
      const more = change.changes.length - changes.length;
      await recordAudit(
        this.#database,
        {
          companyId,
          actor,
          action: `entry.${kind}`,
          subject: [change.subject, numbers.join(', ')].filter(Boolean).join(' '),
          details: { ...change.details, ...(added.length === 1 ? { entryId: added[0]! } : {}), change: made!.id },
          changes: more > 0 ? [...changes, { what: 'further fields', from: null, to: more }] : changes,
          reason,
        },
        transaction,
      );
      const detail = { before: detailBefore, after: hasNewNames ? [] : await detailedSums(this.#database, all, transaction) };
      return { before, after, hasNewNames, all, detail };
    });
    if (!done.hasNewNames)
      await this.#booksCache.follow(books, {
        facts: gainedFacts(books, done.before, done.after),
        entries: done.all,
        detail: done.detail,
        read,
      });
    return done.all;
  }

  /** The making of an entry is the first change in its history; there was nothing before it. */
  async #keepMade({ change, ids }: { readonly change: number; readonly ids: readonly number[] }, transaction: Transaction): Promise<void> {
    if (ids.length === 0) return;
    await this.#database.run(
      `INSERT INTO entry_versions (entry_id, version, change_id, content) SELECT value, 0, $1, 'null' FROM json_each($2)`,
      [change, JSON.stringify(ids)],
      transaction,
    );
  }

  async #refuseChanged(expected: ReadonlyMap<number, number>, transaction: Transaction): Promise<void> {
    const rows = await this.#database.select<{ id: number; number: string; version: number }>(
      'SELECT id, number, version FROM entries WHERE id IN (SELECT value FROM json_each($1))',
      [JSON.stringify([...expected.keys()])],
      transaction,
    );
    const changed = rows.find(({ id, version }) => version !== expected.get(id));
    if (!changed && rows.length === expected.size) return;
    const [last] = changed
      ? await this.#database.select<{ at: string; actor: string; reason: string }>(
          'SELECT c.at, c.actor, c.reason FROM entry_versions v JOIN entry_changes c ON c.id = v.change_id WHERE v.entry_id = $1 ORDER BY v.version DESC LIMIT 1',
          [changed.id],
          transaction,
        )
      : [];
    throw new ProblemError(
      409,
      'Changed by someone else',
      last
        ? `Entry ${changed!.number} was changed by ${last.actor} at ${last.at.slice(0, 16).replace('T', ' ')}: ${last.reason} Open it again to see both.`
        : 'An entry was changed or removed since it was opened. Open it again.',
    );
  }
}
