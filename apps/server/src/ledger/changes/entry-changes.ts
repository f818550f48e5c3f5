import type {
  correctionPreviewSchema,
  correctionSchema,
  EntryChangeDto,
  EntryEffectDto,
  ReclassificationRequest,
} from '@wise-margin/contract';
import { type BalanceFact, correctingEntry, type EntryContent, entryDifferences, minor, movingLines } from '@wise-margin/core';
import { differenceWords } from '@wise-margin/presentation';
import type { z } from 'zod';

import type { Books, BooksCache } from '../../companies/index.ts';
import type { Actor } from '../../database/audit.ts';
import type { Database } from '../../database/database.ts';
import { notFound, ProblemError, refused } from '../../http/problem.ts';
import { effectDto } from './change-effect-dto.ts';
import { ChangeWriter } from './change-writer.ts';
import { closedEffect } from './closed-effect.ts';
import { contentOf, factsOf, gainedByContents, refuseIssues, withLineIds } from './corrected-content.ts';
import type { EntryMaking } from './entry-making.ts';
import { moveLines, moveOf } from './reclassification.ts';
import { type StoredContent, storedEntries, type StoredEntry } from './stored-entries.ts';
import { discardEntries, writeContents } from './write-contents.ts';

type Correction = z.infer<typeof correctionSchema>;
type CorrectionPreview = z.infer<typeof correctionPreviewSchema>;
type EntryPlace = { readonly company: number; readonly entry: number };

/** Corrects and reclassifies entries: each change is one, with its reason, earlier versions kept, and undone as one. */
export class EntryChanges {
  readonly #database: Database;
  readonly #booksCache: BooksCache;
  readonly #writer: ChangeWriter;
  readonly #making: EntryMaking;

  constructor(database: Database, booksCache: BooksCache, making: EntryMaking) {
    this.#database = database;
    this.#booksCache = booksCache;
    this.#writer = new ChangeWriter(database, booksCache);
    this.#making = making;
  }

  /** What a correction would do to accounts and statements. @throws ProblemError 422 for an entry that cannot be posted */
  async previewCorrection(place: EntryPlace, { content, postIn }: CorrectionPreview, actor: Actor): Promise<EntryEffectDto> {
    const { books, entry } = await this.#entry(place);
    const after = contentOf(content);
    refuseIssues(books, after, entry.content);
    if (postIn !== undefined) {
      const correcting = correctingEntryOf(books, { entry, after, date: postIn });
      return this.#effect(books, factsOf(books, correcting, 1), { entries: 1, lines: correcting.lines.length, actor });
    }
    return this.#effect(books, gainedByContents(books, entry.content, after), { entries: 1, lines: after.lines.length, actor });
  }

  async #effect(
    books: Books,
    facts: readonly BalanceFact[],
    { actor, ...counts }: { readonly entries: number; readonly lines: number; readonly actor: Actor },
  ): Promise<EntryEffectDto> {
    const closed = await closedEffect(this.#database, books, { facts, person: actor.name });
    return effectDto(books, facts, { ...counts, closed });
  }

  /** @throws ProblemError 409 when another change was made since the version that was opened; 422 for an entry that cannot be posted */
  async correct(place: EntryPlace, { version, content, postIn, reason }: Correction, actor: Actor): Promise<void> {
    const { books, entry } = await this.#entry(place);
    const after = contentOf(content);
    refuseIssues(books, after, entry.content);
    const written = withLineIds(after, entry.content);
    const differences = entryDifferences(entry.content, written).map((each) => differenceWords(each, books.currency));
    if (differences.length === 0) throw refused('Nothing was changed. Change a field of the entry first.', 'content');
    const changes = differences.map(({ line, field, from, to }) => ({ what: line === 0 ? field : `line ${line}, ${field}`, from, to }));
    if (postIn !== undefined) {
      const correcting = correctingEntryOf(books, { entry, after, date: postIn });
      await this.#making.make(books, {
        made: [{ content: correcting, corrects: entry.id }],
        expected: new Map([[entry.id, version]]),
        reason,
        actor,
        subject: `correction of ${entry.number} by entry`,
        changes,
      });
      return;
    }
    await this.#writer.write(books, {
      kind: 'correct',
      reason,
      actor,
      ids: [entry.id],
      subject: `entry ${entry.number}`,
      details: { entryId: entry.id },
      changes,
      expected: new Map([[entry.id, version]]),
      mutate: async (transaction) => ({
        hasNewNames: await writeContents(
          this.#database,
          { companyId: books.id, calendar: books.calendar, written: [{ id: entry.id, content: written }] },
          transaction,
        ),
      }),
    });
  }

  /** What moving lines would do to accounts and statements. */
  async previewReclassification(companyId: number, request: ReclassificationRequest, actor: Actor): Promise<EntryEffectDto> {
    const books = await this.#booksCache.of(companyId);
    const { facts, entries, lines } = await moveOf(this.#database, books, request);
    if (request.postIn === undefined) return this.#effect(books, facts, { entries: entries.length, lines, actor });
    const moving = movingEntryOf(books, { facts, date: request.postIn, memo: 'Reclassification' });
    return this.#effect(books, factsOf(books, moving, 1), { entries: 1, lines: moving.lines.length, actor });
  }

  /** Moves lines to another account, to other dimension values, or their whole entries to another date, as one change. */
  async reclassify(
    companyId: number,
    { reason, ...request }: ReclassificationRequest & { readonly reason: string },
    actor: Actor,
  ): Promise<void> {
    const books = await this.#booksCache.of(companyId);
    const move = await moveOf(this.#database, books, request);
    const { entries, versions, lines, changes } = move;
    if (request.postIn !== undefined) {
      const moving = movingEntryOf(books, { facts: move.facts, date: request.postIn, memo: reason });
      await this.#making.make(books, {
        made: [{ content: moving }],
        expected: versions,
        reason,
        actor,
        subject: `reclassification of ${lines === 1 ? '1 line' : `${lines.toLocaleString('en-US')} lines`}`,
        changes,
      });
      return;
    }
    await this.#writer.write(books, {
      kind: 'reclassify',
      reason,
      actor,
      ids: entries,
      subject: lines === 1 ? '1 line' : `${lines.toLocaleString('en-US')} lines`,
      details: entries.length === 1 ? { entryId: entries[0]!, lines } : { entries: entries.length, lines },
      changes,
      expected: versions,
      mutate: async (transaction) => ({ hasNewNames: await moveLines(this.#database, { books, request, move }, transaction) }),
    });
  }

  /** Restores the entries of a change to their earlier content, as a change of its own. @throws ProblemError 409 when one was changed since */
  async undo({ company, change }: { readonly company: number; readonly change: number }, reason: string, actor: Actor): Promise<void> {
    const books = await this.#booksCache.of(company);
    const [made] = await this.#database.select<{ id: number; undone_by: number | null }>(
      'SELECT id, undone_by FROM entry_changes WHERE id = $1 AND company_id = $2',
      [change, company],
    );
    if (!made) throw notFound(`change ${change}`);
    if (made.undone_by !== null) throw new ProblemError(409, 'Undone already', 'This change was undone already.');
    const kept = await this.#database.select<{ entry_id: number; version: number; content: string }>(
      'SELECT entry_id, version, content FROM entry_versions WHERE change_id = $1',
      [change],
    );
    const contents = kept.map(({ entry_id, content }) => ({ id: entry_id, content: JSON.parse(content) as StoredContent | null }));
    const written = contents.flatMap(({ id, content }) => (content === null ? [] : [{ id, content }]));
    // what the change made is discarded
    const added = contents.flatMap(({ id, content }) => (content === null ? [id] : []));
    const ids = contents.map(({ id }) => id);
    await this.#writer.write(books, {
      kind: 'undo',
      reason,
      actor,
      ids,
      subject: `change ${change}`,
      details: ids.length === 1 ? { entryId: ids[0]!, undoes: change } : { entries: ids.length, undoes: change },
      changes: [],
      expected: new Map(kept.map(({ entry_id, version }) => [entry_id, version + 1])),
      undoes: change,
      mutate: async (transaction) => {
        if (added.length > 0) await discardEntries(this.#database, added, transaction);
        const hasNewNames =
          written.length > 0 &&
          (await writeContents(this.#database, { companyId: company, calendar: books.calendar, written }, transaction));
        return { hasNewNames };
      },
    });
  }

  /** Every change of an entry, the newest first, with what each replaced. */
  async history(place: EntryPlace): Promise<EntryChangeDto[]> {
    const { books, entry } = await this.#entry(place);
    const rows = await this.#database.select<{
      id: number;
      at: string;
      actor: string;
      kind: EntryChangeDto['kind'];
      reason: string;
      entries: number;
      undone_by: number | null;
      content: string;
    }>(
      `SELECT c.id, c.at, c.actor, c.kind, c.reason, c.entries, c.undone_by, v.content FROM entry_versions v JOIN entry_changes c ON c.id = v.change_id
       WHERE v.entry_id = $1 ORDER BY v.version DESC`,
      [entry.id],
    );
    let after: EntryContent = entry.content;
    return rows.map(({ content, undone_by, ...row }) => {
      const before = JSON.parse(content) as StoredContent | null;
      const differences = before === null ? [] : entryDifferences(before, after).map((each) => differenceWords(each, books.currency));
      after = before ?? after;
      return { ...row, undoneBy: undone_by, differences };
    });
  }

  async #entry({ company, entry: id }: EntryPlace): Promise<{ readonly books: Books; readonly entry: StoredEntry }> {
    const books = await this.#booksCache.of(company);
    const [entry] = await storedEntries(this.#database, { companyId: company, ids: [id] });
    if (!entry) throw notFound(`entry ${id}`);
    return { books, entry };
  }
}

/** The entry that corrects another in a later period. @throws ProblemError 422 when nothing of a figure differs, or the day cannot be taken */
function correctingEntryOf(
  books: Books,
  { entry, after, date }: { readonly entry: StoredEntry; readonly after: EntryContent; readonly date: string },
): EntryContent {
  const correcting = correctingEntry(entry.content, after, { date, memo: `Correction of ${entry.number}` });
  if (correcting.lines.length === 0) throw refused('No line was changed, so there is nothing to post in another month.', 'content');
  refuseIssues(books, correcting, entry.content);
  return correcting;
}

/** One entry that moves what lines of closed periods add up to. @throws ProblemError 422 when the day cannot be taken */
function movingEntryOf(
  books: Books,
  { facts, date, memo }: { readonly facts: readonly BalanceFact[]; readonly date: string; readonly memo: string },
): EntryContent {
  const sums = new Map<string, { account: string; dimensions: BalanceFact['combination']; amount: number }>();
  for (const { account, combination, amount } of facts) {
    const { number } = books.chart.accounts[account]!;
    const key = `${number}\n${JSON.stringify(Object.entries(combination).sort())}`;
    const held = sums.get(key) ?? { account: number, dimensions: combination, amount: 0 };
    sums.set(key, held);
    held.amount += amount;
  }
  const lines = movingLines(
    [...sums.values()].map((sum) => ({ ...sum, amount: minor(sum.amount) })),
    memo,
  );
  const moving: EntryContent = { date, source: 'reclassifications', kind: 'reclassification', state: 'posted', lines };
  refuseIssues(books, moving, null);
  return moving;
}
