import { gunzipSync, gzipSync } from 'node:zlib';

import type { PackFormat, PackIssueDto, PackIssueSummary, PackPageDto, PackReading, ReadingSource } from '@wise-margin/contract';
import { type IssueChange, issueChanges, type IssuedFigure, longPeriodName, periodOfKey } from '@wise-margin/core';
import type { Transaction } from 'sequelize';

import type { Books } from '../companies/index.ts';
import { type Actor, recordAudit } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import { notFound, ProblemError } from '../http/problem.ts';
import type { PackFile } from './content/content.ts';
import type { MonthPlace, PackMonths } from './pack-months.ts';
import type { PackPlace } from './pack-store.ts';
import { changedSources, type SourceStamp, sourceStamp } from './source-stamp.ts';

/** A document as it is frozen: what it shows, and every file of it. */
export type FrozenDocument = {
  readonly slice: string;
  readonly fingerprint: string;
  readonly pages: readonly PackPageDto[];
  /** as a data address; null without one */
  readonly logo: string | null;
  readonly reading: PackReading;
  /** where the figures of statements come from, by section */
  readonly sources: Readonly<Record<string, ReadingSource>>;
  readonly figures: readonly IssuedFigure[];
  readonly files: readonly PackFile[];
};
/** What an issue is drawn from on screen. */
type FrozenPages = {
  readonly pages: PackPageDto[];
  readonly logo: string | null;
  /** absent in issues of an earlier version */
  readonly reading?: PackReading;
  readonly sources?: Readonly<Record<string, ReadingSource>>;
};
type IssueRow = {
  readonly id: number;
  readonly pack: string;
  readonly name: string;
  readonly month: string;
  readonly number: number;
  readonly at: string;
  readonly by: string;
};
type DocumentRow = {
  readonly issue_id: number;
  readonly slice: string;
  readonly page_count: number;
  readonly fingerprint: string;
  readonly changes: string | null;
};

/** Issued packs: their pages, figures and files as they were on that day. Nothing changes them afterwards. */
export class PackIssues {
  readonly #database: Database;
  readonly #months: PackMonths;

  constructor(database: Database, months: PackMonths) {
    this.#database = database;
    this.#months = months;
  }

  /**
   * Freezes documents as the next issue of a pack's month, all of it or nothing.
   * @returns the issue's number in the database
   * @throws ProblemError 409 naming what changed since the documents were made
   */
  freeze(
    place: MonthPlace,
    {
      name,
      documents,
      actor,
      stamp,
    }: {
      readonly name: string;
      readonly documents: readonly FrozenDocument[];
      readonly actor: Actor;
      /** everything the documents were made from, as it was then */
      readonly stamp: SourceStamp;
    },
  ): Promise<number> {
    return this.#database.write(async (transaction) => {
      const { company, pack, month } = place;
      await this.#refuseChanged(place, stamp, transaction);
      const [before] = await this.#database.select<{ id: number; number: number }>(
        'SELECT id, number FROM pack_issues WHERE company_id = $1 AND pack = $2 AND month = $3 ORDER BY number DESC LIMIT 1',
        [company, pack, month],
        transaction,
      );
      const number = (before?.number ?? 0) + 1;
      const [next] = await this.#database.select<{ id: number }>('SELECT coalesce(max(id), 0) + 1 AS id FROM pack_issues', [], transaction);
      const { id } = next!;
      await this.#database.run(
        'INSERT INTO pack_issues (id, company_id, pack, name, month, number, at, by) VALUES ($1, $2, $3, $4, $5, $6, $7, $8)',
        [id, company, pack, name, month, number, actor.now().toISOString(), actor.name],
        transaction,
      );
      for (const document of documents) {
        const changes = before
          ? issueChanges(await this.#figures(before.id, { slice: document.slice, transaction }), document.figures)
          : null;
        await this.#insert(id, { document, changes, transaction });
      }
      await this.#months.markIssued(place, transaction);
      const fingerprints = documents.map(({ slice, fingerprint }) => [slice, fingerprint]);
      await recordAudit(
        this.#database,
        { companyId: company, actor, action: 'pack.issue', subject: pack, details: { name, month, number, fingerprints } },
        transaction,
      );
      return id;
    });
  }

  /** Issues of a company, the latest first. */
  async list(books: Books, { pack, month }: { readonly pack?: string; readonly month?: string } = {}): Promise<PackIssueSummary[]> {
    const rows = await this.#database.select<IssueRow>(
      `SELECT id, pack, name, month, number, at, by FROM pack_issues WHERE company_id = $1 AND ($2 IS NULL OR pack = $2) AND ($3 IS NULL OR month = $3)
       ORDER BY id DESC LIMIT 500`,
      [books.id, pack ?? null, month ?? null],
    );
    const documents = await this.#documents(rows.map(({ id }) => id));
    return rows.map((row) => summaryOf(books, row, documents.get(row.id) ?? []));
  }

  /** One issue with what it changed against the issue before. @throws ProblemError 404 */
  async of(books: Books, id: number): Promise<PackIssueDto> {
    const row = await this.#row(books.id, id);
    const documents = (await this.#documents([id])).get(id) ?? [];
    const list = documents.flatMap(({ slice, changes }) =>
      changes === null ? [] : (JSON.parse(changes) as IssueChange[]).map((change) => ({ slice, ...change })),
    );
    const [later] = await this.#database.select<{ id: number; number: number }>(
      'SELECT id, number FROM pack_issues WHERE company_id = $1 AND pack = $2 AND month = $3 AND number > $4 ORDER BY number DESC LIMIT 1',
      [books.id, row.pack, row.month, row.number],
    );
    const [changed] = await this.#database.select<{ count: number }>(
      `SELECT count(*) AS count FROM audit_events WHERE company_id = $1 AND at > $2
         AND (action LIKE 'entry.%' OR action IN ('import.post', 'import.reverse')) AND action NOT IN ('entry.discard')`,
      [books.id, row.at],
    );
    return { ...summaryOf(books, row, documents), later: later ?? null, ledgerChanges: changed!.count, list };
  }

  /** The pages of an issue as they were. @throws ProblemError 404 */
  async pages({ company }: Pick<PackPlace, 'company'>, id: number, slice: string): Promise<FrozenPages> {
    await this.#row(company, id);
    const [row] = await this.#database.select<{ pages: Buffer }>('SELECT pages FROM pack_documents WHERE issue_id = $1 AND slice = $2', [
      id,
      slice,
    ]);
    if (!row) throw notFound(slice === '' ? 'document in this issue' : `document for ${slice} in this issue`);
    return unpacked<FrozenPages>(row.pages);
  }

  /** An issue as it is read on a screen, and where its figures come from. @throws ProblemError 404, 409 for an issue of an earlier version */
  async reading(
    { company, packIssue }: { readonly company: number; readonly packIssue: number },
    slice: string,
  ): Promise<{ readonly reading: PackReading; readonly sources: Readonly<Record<string, ReadingSource>> }> {
    const { reading, sources = {} } = await this.pages({ company }, packIssue, slice);
    if (!reading)
      throw new ProblemError(409, 'Issued earlier', 'This issue was made by an earlier version. Issue the pack again to share it.');
    return { reading, sources };
  }

  /** An amount of an issue in minor units; null for what is no amount. */
  async amount(
    { packIssue }: { readonly packIssue: number },
    { slice, section, line, column }: { readonly slice: string; readonly section: string; readonly line: string; readonly column: string },
  ): Promise<number | null> {
    const figures = await this.#figures(packIssue, { slice });
    return figures.find((figure) => figure.section === section && figure.line === line && figure.column === column)?.amount ?? null;
  }

  /** A file of an issue, byte for byte as it was issued. @throws ProblemError 404 */
  async file(
    { company }: Pick<PackPlace, 'company'>,
    id: number,
    { slice, format }: { readonly slice: string; readonly format: PackFormat },
  ): Promise<{ readonly content: Buffer; readonly name: string }> {
    const { pack, month } = await this.#row(company, id);
    const [row] = await this.#database.select<{ content: Buffer }>(
      'SELECT content FROM pack_files WHERE issue_id = $1 AND slice = $2 AND format = $3',
      [id, slice, format],
    );
    if (!row) throw notFound(`${format} file of this issue${slice === '' ? '' : ` for ${slice}`}`);
    return { content: row.content, name: fileName({ pack, month, slice, format }) };
  }

  async #refuseChanged({ company }: MonthPlace, stamp: SourceStamp, transaction: Transaction): Promise<void> {
    const changed = changedSources(stamp, await sourceStamp(this.#database, company, transaction));
    if (changed.length === 0) return;
    throw new ProblemError(
      409,
      'Changed meanwhile',
      `Changed while the pack was being issued: ${changed.join(', ')}. Nothing was issued. Look at the preview and issue again.`,
    );
  }

  async #insert(
    issue: number,
    {
      document: { slice, fingerprint, pages, logo, reading, sources, figures, files },
      changes,
      transaction,
    }: { readonly document: FrozenDocument; readonly changes: readonly IssueChange[] | null; readonly transaction: Transaction },
  ): Promise<void> {
    await this.#database.run(
      'INSERT INTO pack_documents (issue_id, slice, page_count, fingerprint, pages, figures, changes) VALUES ($1, $2, $3, $4, $5, $6, $7)',
      [
        issue,
        slice,
        pages.length,
        fingerprint,
        packed({ pages, logo, reading, sources }),
        packed(figures),
        changes === null ? null : JSON.stringify(changes),
      ],
      transaction,
    );
    for (const { format, content } of files)
      await this.#database.run(
        'INSERT INTO pack_files (issue_id, slice, format, content) VALUES ($1, $2, $3, $4)',
        [issue, slice, format, content],
        transaction,
      );
  }

  async #figures(
    issue: number,
    { slice, transaction }: { readonly slice: string; readonly transaction?: Transaction },
  ): Promise<IssuedFigure[]> {
    const [row] = await this.#database.select<{ figures: Buffer }>(
      'SELECT figures FROM pack_documents WHERE issue_id = $1 AND slice = $2',
      [issue, slice],
      transaction,
    );
    return row ? unpacked<IssuedFigure[]>(row.figures) : [];
  }

  async #documents(issues: readonly number[]): Promise<ReadonlyMap<number, DocumentRow[]>> {
    const rows = await this.#database.select<DocumentRow>(
      'SELECT issue_id, slice, page_count, fingerprint, changes FROM pack_documents WHERE issue_id IN (SELECT value FROM json_each($1)) ORDER BY slice',
      [JSON.stringify(issues)],
    );
    const byIssue = new Map<number, DocumentRow[]>();
    for (const row of rows) byIssue.set(row.issue_id, [...(byIssue.get(row.issue_id) ?? []), row]);
    return byIssue;
  }

  async #row(companyId: number, id: number): Promise<IssueRow> {
    const [row] = await this.#database.select<IssueRow>(
      'SELECT id, pack, name, month, number, at, by FROM pack_issues WHERE company_id = $1 AND id = $2',
      [companyId, id],
    );
    if (!row) throw notFound('issued pack with this number');
    return row;
  }
}

function summaryOf(books: Books, row: IssueRow, documents: readonly DocumentRow[]): PackIssueSummary {
  const changes = documents.map((document) => (document.changes === null ? null : (JSON.parse(document.changes) as unknown[]).length));
  const month = periodOfKey(books.calendar, row.month);
  return {
    ...row,
    monthName: month === null ? row.month : longPeriodName(books.calendar, month),
    documents: documents.map(({ slice, page_count: pages, fingerprint }) => ({ slice, pages, fingerprint })),
    changes: changes.every((count) => count === null) ? null : changes.reduce<number>((sum, count) => sum + (count ?? 0), 0),
  };
}

/** The name a pack's file is saved under: `monthly-review-2026-10.pdf`. */
export const fileName = ({
  pack,
  month,
  slice,
  format,
}: {
  readonly pack: string;
  readonly month: string;
  readonly slice: string;
  readonly format: PackFormat;
}): string => `${[pack, month, ...(slice === '' ? [] : [slice.toLowerCase().replaceAll(/[^a-z0-9]+/g, '-')])].join('-')}.${format}`;

const packed = (value: unknown): Buffer => gzipSync(JSON.stringify(value));
const unpacked = <Value>(bytes: Buffer): Value => JSON.parse(gunzipSync(bytes).toString('utf8')) as Value;
