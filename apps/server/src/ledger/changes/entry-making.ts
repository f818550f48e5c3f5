import type { EntryEffectDto, NewEntry, Reversal } from '@wise-margin/contract';
import { type EntryContent, reversingEntry } from '@wise-margin/core';
import { differenceWords } from '@wise-margin/presentation';
import type { Transaction } from 'sequelize';

import type { Books, BooksCache } from '../../companies/index.ts';
import type { Actor } from '../../database/audit.ts';
import type { AuditChange } from '../../database/audit-chain.ts';
import type { Database } from '../../database/database.ts';
import { notFound, ProblemError, refused } from '../../http/problem.ts';
import { effectDto } from './change-effect-dto.ts';
import { ChangeWriter, type Mutation } from './change-writer.ts';
import { closedEffect } from './closed-effect.ts';
import { contentOf, factsOf, refuseIssues, withLineIds } from './corrected-content.ts';
import { storedEntries, type StoredEntry } from './stored-entries.ts';
import { addEntry, discardEntries, writeContents } from './write-contents.ts';

type EntryPlace = { readonly company: number; readonly entry: number };
export type MadeEntry = {
  readonly content: EntryContent;
  readonly corrects?: number;
  /** an entry that it takes back */
  readonly reverses?: number;
  /** whether it takes back the first entry made with it */
  readonly reversesFirst?: boolean;
};

/** Entries made by a person: posted or in draft, reversing when asked for; drafts posted and discarded. */
export class EntryMaking {
  readonly #database: Database;
  readonly #booksCache: BooksCache;
  readonly #writer: ChangeWriter;

  constructor(database: Database, booksCache: BooksCache) {
    this.#database = database;
    this.#booksCache = booksCache;
    this.#writer = new ChangeWriter(database, booksCache);
  }

  /** What new entries would do to accounts and statements. @throws ProblemError 422 for one that cannot be posted */
  async preview(companyId: number, asked: Omit<NewEntry, 'reason'>, actor: Actor): Promise<EntryEffectDto> {
    const books = await this.#booksCache.of(companyId);
    const made = madeOf(books, asked);
    const facts = made.flatMap(({ content }) => factsOf(books, content, 1));
    const closed = await closedEffect(this.#database, books, { facts, person: actor.name });
    const lines = made.reduce((sum, { content }) => sum + content.lines.length, 0);
    return effectDto(books, facts, { entries: made.length, lines, closed });
  }

  /** Makes an entry, and the one that reverses it. */
  async create(companyId: number, { reason, ...asked }: NewEntry, actor: Actor): Promise<{ id: number; number: string }[]> {
    const books = await this.#booksCache.of(companyId);
    return this.make(books, {
      made: madeOf(books, asked),
      reason,
      actor,
      subject: asked.content.state === 'draft' ? 'draft entry' : 'entry',
    });
  }

  /** Posts an entry that another feature lays out, with what it writes of it. @throws ProblemError 422 for one that cannot be posted */
  async makeOne(
    books: Books,
    {
      content,
      ...request
    }: {
      readonly content: EntryContent;
      readonly reason: string;
      readonly actor: Actor;
      readonly after: (entries: readonly number[], transaction: Transaction) => Promise<void>;
    },
  ): Promise<void> {
    refuseIssues(books, content, null);
    await this.make(books, { made: [{ content }], subject: 'entry', ...request });
  }

  /** Makes entries as one change. */
  async make(
    books: Books,
    {
      made,
      reason,
      actor,
      subject,
      changes = made.flatMap(({ content }) => contentChanges(books, content)),
      expected = new Map(),
      also,
      after,
    }: {
      readonly made: readonly MadeEntry[];
      readonly reason: string;
      readonly actor: Actor;
      readonly subject: string;
      readonly changes?: readonly AuditChange[];
      /** versions of entries that the change is based on */
      readonly expected?: ReadonlyMap<number, number>;
      /** what else is written with it */
      readonly also?: (transaction: Transaction) => Promise<void>;
      /** what is written of the entries made, once they are there */
      readonly after?: (entries: readonly number[], transaction: Transaction) => Promise<void>;
    },
  ): Promise<{ id: number; number: string }[]> {
    const ids = await this.#writer.write(books, {
      kind: 'create',
      reason,
      actor,
      ids: [],
      subject,
      details: { entries: made.length },
      changes,
      expected,
      mutate: async (transaction) => {
        await also?.(transaction);
        const mutation = await this.#add(books, made, transaction);
        await after?.(mutation.made ?? [], transaction);
        return mutation;
      },
    });
    return this.#database.select<{ id: number; number: string }>(
      'SELECT id, number FROM entries WHERE id IN (SELECT value FROM json_each($1)) ORDER BY id',
      [JSON.stringify(ids)],
    );
  }

  /** What reversing an entry would do to accounts and statements. @throws ProblemError 409, 422 as `reverse` */
  async previewReversal(place: EntryPlace, asked: Omit<Reversal, 'reason'>, actor: Actor): Promise<EntryEffectDto> {
    const { books, reversing } = await this.#reversal(place, asked);
    const facts = factsOf(books, reversing, 1);
    const closed = await closedEffect(this.#database, books, { facts, person: actor.name });
    return effectDto(books, facts, { entries: 1, lines: reversing.lines.length, closed });
  }

  /**
   * Posts the entry that takes another back, linked to it: dated like it, it is void; on a later day, reversed.
   * @throws ProblemError 409 for a draft, an entry reversed before, or one changed since; 422 for a day it cannot be posted on
   */
  async reverse(place: EntryPlace, { reason, ...asked }: Reversal, actor: Actor): Promise<{ id: number; number: string }[]> {
    const { books, entry, reversing } = await this.#reversal(place, asked);
    return this.make(books, {
      made: [{ content: reversing, reverses: entry.id }],
      expected: new Map([[entry.id, asked.version]]),
      reason,
      actor,
      subject: `reversal of ${entry.number}`,
      also: (transaction) => this.#refuseReversed(entry, transaction),
    });
  }

  async #reversal(place: EntryPlace, { date, postIn }: Omit<Reversal, 'reason'>) {
    const books = await this.#booksCache.of(place.company);
    const [entry] = await storedEntries(this.#database, { companyId: place.company, ids: [place.entry] });
    if (!entry) throw notFound(`entry ${place.entry}`);
    if (entry.content.state !== 'posted')
      throw new ProblemError(409, 'Not posted', `Entry ${entry.number} is ${entry.content.state}. Only a posted entry can be reversed.`);
    if (date < entry.content.date) throw refused(`The reversal has to be dated ${entry.content.date}, like the entry, or later.`, 'date');
    await this.#refuseReversed(entry);
    const { kind } = entry.content;
    const reversing = reversingEntry(
      { ...entry.content, kind: postIn !== undefined && kind === 'ordinary' ? 'adjustment' : kind },
      postIn ?? date,
    );
    const words = `${reversing.date === entry.content.date ? 'Void' : 'Reversal'} of ${entry.number}`;
    const lines = reversing.lines.map((line) => ({ ...line, memo: line.memo === '' ? words : `${words}: ${line.memo}` }));
    const content = { ...reversing, lines };
    refuseIssues(books, content, null);
    return { books, entry, reversing: content };
  }

  async #refuseReversed({ id, number }: Pick<StoredEntry, 'id' | 'number'>, transaction?: Transaction): Promise<void> {
    const [by] = await this.#database.select<{ number: string }>(
      `SELECT number FROM entries WHERE reverses = $1 AND state <> 'discarded' LIMIT 1`,
      [id],
      transaction,
    );
    if (by) throw new ProblemError(409, 'Reversed already', `Entry ${number} was reversed by ${by.number} already.`);
  }

  /** Posts a draft as it is. @throws ProblemError 409 when it was changed since or lies in a closed period */
  async post(place: EntryPlace, version: number, actor: Actor): Promise<void> {
    const { books, entry } = await this.#draft(place);
    const content = { ...entry.content, state: 'posted' as const };
    refuseIssues(books, content, entry.content);
    await this.#writer.write(books, {
      kind: 'post',
      reason: '',
      actor,
      ids: [entry.id],
      subject: `draft entry ${entry.number}`,
      details: { entryId: entry.id },
      changes: [{ what: 'state', from: 'draft', to: 'posted' }],
      expected: new Map([[entry.id, version]]),
      mutate: async (transaction) => ({
        hasNewNames: await writeContents(
          this.#database,
          { companyId: books.id, calendar: books.calendar, written: [{ id: entry.id, content: withLineIds(content, entry.content) }] },
          transaction,
        ),
      }),
    });
  }

  /** Takes a draft out of the ledger; it stays on record and can be restored. */
  async discard(place: EntryPlace, version: number, actor: Actor): Promise<void> {
    const { books, entry } = await this.#draft(place);
    await this.#writer.write(books, {
      kind: 'discard',
      reason: '',
      actor,
      ids: [entry.id],
      subject: `draft entry ${entry.number}`,
      details: { entryId: entry.id },
      changes: contentChanges(books, entry.content).map(({ what, to }) => ({ what, from: to, to: null })),
      expected: new Map([[entry.id, version]]),
      mutate: async (transaction) => {
        await discardEntries(this.#database, [entry.id], transaction);
        return { hasNewNames: false };
      },
    });
  }

  async #draft({ company, entry: id }: EntryPlace): Promise<{ readonly books: Books; readonly entry: StoredEntry }> {
    const books = await this.#booksCache.of(company);
    const [entry] = await storedEntries(this.#database, { companyId: company, ids: [id] });
    if (!entry) throw notFound(`entry ${id}`);
    if (entry.content.state !== 'draft')
      throw new ProblemError(
        409,
        'Not a draft',
        `Entry ${entry.number} is ${entry.content.state}. Only a draft can be posted or discarded.`,
      );
    return { books, entry };
  }

  async #add(books: Books, made: readonly MadeEntry[], transaction: Transaction): Promise<Mutation> {
    const rows: { readonly id: number; readonly number: string }[] = [];
    for (const { corrects = null, reverses: earlier = null, reversesFirst = false } of made) {
      const reverses = reversesFirst ? rows[0]!.id : earlier;
      rows.push(await addEntry(this.#database, { companyId: books.id, corrects, reverses }, transaction));
    }
    const written = made.map(({ content }, at) => ({
      id: rows[at]!.id,
      content: { ...content, lines: content.lines.map((line) => ({ ...line, id: null })) },
    }));
    const hasNewNames = await writeContents(this.#database, { companyId: books.id, calendar: books.calendar, written }, transaction);
    return { hasNewNames, made: rows.map(({ id }) => id), numbers: rows.map(({ number }) => number) };
  }
}

/** An entry asked for and the one that reverses it, both fit to be posted. @throws ProblemError 422 */
function madeOf(books: Books, { content: asked, reverseOn }: Omit<NewEntry, 'reason'>): MadeEntry[] {
  const content = contentOf(asked);
  refuseIssues(books, content, null);
  if (reverseOn === null) return [{ content }];
  if (reverseOn <= content.date) throw refused('The reversing entry has to be dated after the entry.', 'reverseOn');
  const reversing = reversingEntry(content, reverseOn);
  refuseIssues(books, reversing, null);
  return [{ content }, { content: reversing, reversesFirst: true }];
}

/** The lines of an entry for the record. */
export function contentChanges(books: Books, content: EntryContent): AuditChange[] {
  const nameOf = (number: string) => books.chart.accounts.find((account) => account.number === number)?.name ?? '';
  return content.lines.map((line) => ({
    what: `${content.date}, ${line.account} ${nameOf(line.account)}`,
    from: null,
    to: differenceWords({ line: 0, field: 'amount', from: null, to: line.amount }, books.currency).to,
  }));
}
