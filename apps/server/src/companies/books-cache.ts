import type { BalanceFact, LineTable } from '@wise-margin/core';

import type { Database } from '../database/database.ts';
import { notFound } from '../http/problem.ts';
import { type Actuals, type ActualsDetail, type DetailedSum, followedActuals, loadActuals } from './actuals.ts';
import type { Books } from './books.ts';
import { changedBooks, loadBooks } from './load-books.ts';
import { linesOf, loadLines } from './load-lines.ts';

/** A table of lines, and the entries that changed since it was made. */
type HeldLines = { readonly table: Promise<LineTable>; readonly changed: ReadonlySet<number> };

/** Books of each company, loaded again when this process or another posted a newer version. */
export class BooksCache {
  readonly #database: Database;
  readonly #followed: (books: Books) => void;
  readonly #held = new Map<number, Promise<Books>>();
  readonly #actuals = new WeakMap<Books, Map<string, Promise<Actuals>>>();
  readonly #read = new WeakSet<Promise<Actuals>>();
  readonly #lines = new WeakMap<Books, HeldLines>();

  /** @param followed hears of books that took over a change */
  constructor(database: Database, followed: (books: Books) => void = () => undefined) {
    this.#database = database;
    this.#followed = followed;
  }

  /** @throws ProblemError 404 when there is no such company */
  async of(companyId: number): Promise<Books> {
    const company = await this.#database.remembered(`company ${companyId}`, () => this.#database.models.companies.findByPk(companyId));
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
    cube.then(
      () => this.#read.add(cube),
      () => held.delete(key),
    );
    return cube;
  }

  /** The actuals that are wholly read by now: a change that begins after this can be added to them, and is in none of them yet. */
  actualsRead(books: Books): ReadonlySet<Promise<Actuals>> {
    return new Set([...(this.#actuals.get(books)?.values() ?? [])].filter((each) => this.#read.has(each)));
  }

  /** Every line of the ledger, drafts included, as a table; read at the first request, and brought up to date when it is next asked for. */
  lines(books: Books): Promise<LineTable> {
    const held = this.#lines.get(books);
    const table =
      held === undefined ? loadLines(this.#database, books) : held.changed.size === 0 ? held.table : this.#changedLines(books, held);
    if (table === held?.table) return table;
    this.#lines.set(books, { table, changed: new Set() });
    table.catch(() => this.#lines.delete(books));
    return table;
  }

  async #changedLines(books: Books, { table, changed }: HeldLines): Promise<LineTable> {
    const added = await linesOf(this.#database, books, [...changed]);
    return (await table).with({ without: changed, added });
  }

  /**
   * Takes over a change of entries without reading the ledger again: balances gain what is given, and the table of lines
   * has the entries as they are now. Left alone when the books were read again meanwhile, or anything else was posted.
   * @param before the books the change was made to
   */
  async follow(
    before: Books,
    {
      facts,
      entries,
      detail,
      read,
    }: {
      readonly facts: readonly BalanceFact[];
      readonly entries: readonly number[];
      /** what the entries added up to, and what they do now */
      readonly detail: { readonly before: readonly DetailedSum[]; readonly after: readonly DetailedSum[] };
      /** actuals that were read before the change began; others may have it already, and are read again when they are next asked for */
      readonly read: ReadonlySet<Promise<Actuals>>;
    },
  ): Promise<void> {
    if ((await this.#held.get(before.id)?.catch(() => undefined)) !== before) return;
    before.cube.post(facts);
    const after = await changedBooks(this.#database, before);
    const lines = this.#lines.get(before);
    // copying a table of a million lines would hold up the statements that wait for this change
    if (lines) this.#lines.set(after, { table: lines.table, changed: new Set([...lines.changed, ...entries]) });
    const actuals = this.#actuals.get(before);
    if (actuals) this.#actuals.set(after, this.#followAll(after, new Map([...actuals].filter(([, each]) => read.has(each))), detail));
    this.#held.set(before.id, Promise.resolve(after));
    this.#followed(after);
  }

  /** Actuals that are held, brought up to date; those with cash flows are made from entries again when they are next asked for. */
  #followAll(
    books: Books,
    held: ReadonlyMap<string, Promise<Actuals>>,
    detail: { readonly before: readonly DetailedSum[]; readonly after: readonly DetailedSum[] },
  ): Map<string, Promise<Actuals>> {
    const followed = new Map<string, Promise<Actuals>>();
    for (const [key, reading] of held) {
      const [party, source, drafts, cashFlow] = JSON.parse(key) as readonly [boolean, boolean, boolean, boolean];
      if (cashFlow) continue;
      const needs = { party, source, drafts, cashFlow };
      const following = reading.then((actuals) => followedActuals(books, actuals, { needs, ...detail }));
      followed.set(key, following);
      following.then(
        () => this.#read.add(following),
        () => followed.delete(key),
      );
    }
    return followed;
  }
}
