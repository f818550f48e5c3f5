import type {
  correctionPreviewSchema,
  correctionSchema,
  EntryChangeDto,
  EntryEffectDto,
  ReclassificationRequest,
} from '@wise-margin/contract';
import { type EntryContent, entryDifferences } from '@wise-margin/core';
import { differenceWords } from '@wise-margin/presentation';
import type { z } from 'zod';

import type { Books, BooksCache } from '../../companies/index.ts';
import type { Actor } from '../../database/audit.ts';
import type { Database } from '../../database/database.ts';
import { notFound, ProblemError, refused } from '../../http/problem.ts';
import { effectDto } from './change-effect-dto.ts';
import { ChangeWriter } from './change-writer.ts';
import { contentOf, gainedByContents, refuseIssues, withLineIds } from './corrected-content.ts';
import { moveLines, moveOf } from './reclassification.ts';
import { type StoredContent, storedEntries, type StoredEntry } from './stored-entries.ts';
import { writeContents } from './write-contents.ts';

type Correction = z.infer<typeof correctionSchema>;
type CorrectionPreview = z.infer<typeof correctionPreviewSchema>;
type EntryPlace = { readonly company: number; readonly entry: number };

/** Corrects and reclassifies entries: each change is one, with its reason, earlier versions kept, and undone as one. */
export class EntryChanges {
  readonly #database: Database;
  readonly #booksCache: BooksCache;
  readonly #writer: ChangeWriter;

  constructor(database: Database, booksCache: BooksCache) {
    this.#database = database;
    this.#booksCache = booksCache;
    this.#writer = new ChangeWriter(database, booksCache);
  }

  /** What a correction would do to accounts and statements. @throws ProblemError 422 for an entry that cannot be posted */
  async previewCorrection(place: EntryPlace, { content }: CorrectionPreview): Promise<EntryEffectDto> {
    const { books, entry } = await this.#entry(place);
    const after = contentOf(content);
    refuseIssues(books, after, entry.content);
    return effectDto(books, gainedByContents(books, entry.content, after), { entries: 1, lines: after.lines.length });
  }

  /** @throws ProblemError 409 when another change was made since the version that was opened; 422 for an entry that cannot be posted */
  async correct(place: EntryPlace, { version, content, reason }: Correction, actor: Actor): Promise<void> {
    const { books, entry } = await this.#entry(place);
    const after = contentOf(content);
    refuseIssues(books, after, entry.content);
    const written = withLineIds(after, entry.content);
    const differences = entryDifferences(entry.content, written).map((each) => differenceWords(each, books.currency));
    if (differences.length === 0) throw refused('Nothing was changed. Change a field of the entry first.', 'content');
    await this.#writer.write(books, {
      kind: 'correct',
      reason,
      actor,
      ids: [entry.id],
      subject: `entry ${entry.number}`,
      details: { entryId: entry.id },
      changes: differences.map(({ line, field, from, to }) => ({ what: line === 0 ? field : `line ${line}, ${field}`, from, to })),
      expected: new Map([[entry.id, version]]),
      mutate: (transaction) =>
        writeContents(
          this.#database,
          { companyId: books.id, calendar: books.calendar, written: [{ id: entry.id, content: written }] },
          transaction,
        ),
    });
  }

  /** What moving lines would do to accounts and statements. */
  async previewReclassification(companyId: number, request: ReclassificationRequest): Promise<EntryEffectDto> {
    const books = await this.#booksCache.of(companyId);
    const { facts, entries, lines } = await moveOf(this.#database, books, request);
    return effectDto(books, facts, { entries: entries.length, lines });
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
    await this.#writer.write(books, {
      kind: 'reclassify',
      reason,
      actor,
      ids: entries,
      subject: lines === 1 ? '1 line' : `${lines.toLocaleString('en-US')} lines`,
      details: entries.length === 1 ? { entryId: entries[0]!, lines } : { entries: entries.length, lines },
      changes,
      expected: versions,
      mutate: (transaction) => moveLines(this.#database, { books, request, move }, transaction),
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
    const written = kept.map(({ entry_id, content }) => ({ id: entry_id, content: JSON.parse(content) as StoredContent }));
    await this.#writer.write(books, {
      kind: 'undo',
      reason,
      actor,
      ids: written.map(({ id }) => id),
      subject: `change ${change}`,
      details: written.length === 1 ? { entryId: written[0]!.id, undoes: change } : { entries: written.length, undoes: change },
      changes: [],
      expected: new Map(kept.map(({ entry_id, version }) => [entry_id, version + 1])),
      undoes: change,
      mutate: (transaction) => writeContents(this.#database, { companyId: company, calendar: books.calendar, written }, transaction),
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
      const before = JSON.parse(content) as StoredContent;
      const differences = entryDifferences(before, after).map((each) => differenceWords(each, books.currency));
      after = before;
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
