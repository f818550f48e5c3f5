import type { BalanceFact, LineTable } from '@wise-margin/core';

import type { Database } from '../database/database.ts';
import { notFound } from '../http/problem.ts';
import { type Actuals, type ActualsDetail, loadActuals } from './actuals.ts';
import type { Books } from './books.ts';
import { changedBooks, loadBooks } from './load-books.ts';
import { linesOf, loadLines } from './load-lines.ts';

/** Books of each company, loaded again when this process or another posted a newer version. */
export class BooksCache {
  readonly #database: Database;
  readonly #held = new Map<number, Promise<Books>>();
  readonly #actuals = new WeakMap<Books, Map<string, Promise<Actuals>>>();
  readonly #lines = new WeakMap<Books, Promise<LineTable>>();

  constructor(database: Database) {
    this.#database = database;
  }

  /** @throws ProblemError 404 when there is no such company */
  async of(companyId: number): Promise<Books> {
    const company = await this.#database.models.companies.findByPk(companyId);
    if (!company) throw notFound(`company ${companyId}`);
    const held = await this.#held.get(companyId)?.catch(() => undefined);
    if (held?.version === company.version) return held;
    const loading = loadBooks(this.#database, company);
    this.#held.set(companyId, loading);
    return loading;
  }

  /** Actuals in the detail a statement needs: with customers or source journals as dimensions, with drafts; summed from the lines at the first request. */
  actuals(books: Books, needs: ActualsDetail): Promise<Actuals> {
    if (!needs.party && !needs.source && !needs.drafts && !needs.cashFlow)
      return Promise.resolve({ cube: books.cube, last: books.lastPosted });
    const held = this.#actuals.get(books) ?? new Map<string, Promise<Actuals>>();
    this.#actuals.set(books, held);
    const key = JSON.stringify([needs.party, needs.source, needs.drafts, needs.cashFlow]);
    const cube = held.get(key) ?? loadActuals(this.#database, books, needs);
    held.set(key, cube);
    // a failed read fails for whoever asked; the next request tries again
    cube.catch(() => held.delete(key));
    return cube;
  }

  /** Every line of the ledger, drafts included, as a table; read at the first request. */
  lines(books: Books): Promise<LineTable> {
    const held = this.#lines.get(books) ?? loadLines(this.#database, books);
    this.#lines.set(books, held);
    held.catch(() => this.#lines.delete(books));
    return held;
  }

  /**
   * Takes over a change of entries without reading the ledger again: balances gain what is given, and the table of lines
   * has the entries as they are now. Left alone when the books were read anew meanwhile, or anything else was posted.
   * @param before the books the change was made to
   */
  async follow(
    before: Books,
    { facts, entries }: { readonly facts: readonly BalanceFact[]; readonly entries: readonly number[] },
  ): Promise<void> {
    if ((await this.#held.get(before.id)?.catch(() => undefined)) !== before) return;
    before.cube.post(facts);
    const after = await changedBooks(this.#database, before);
    const lines = this.#lines.get(before);
    if (lines) {
      const changed = lines.then(async (table) =>
        table.with({ without: new Set(entries), added: await linesOf(this.#database, after, entries) }),
      );
      this.#lines.set(after, changed);
      changed.catch(() => this.#lines.delete(after));
    }
    this.#held.set(before.id, Promise.resolve(after));
  }
}
