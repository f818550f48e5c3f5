import type {
  CreatedPackShare,
  NewPackShare,
  PackShareDto,
  SharedFigureDto,
  sharedFigureQuerySchema,
  SharedPackDto,
} from '@wise-margin/contract';
import type { z } from 'zod';

import type { BooksCache } from '../../companies/index.ts';
import type { Actor } from '../../database/audit.ts';
import { notFound, ProblemError, refused } from '../../http/problem.ts';
import { figureGroupsOf, type StatementService } from '../../statements/index.ts';
import { today } from '../content/pack-builder.ts';
import { evaluatedSource } from '../content/statement-sections.ts';
import type { PackIssues } from '../pack-issues.ts';
import type { IssueAt, ShareStore, StoredShare } from './share-store.ts';

type Parts = {
  readonly booksCache: BooksCache;
  readonly issues: PackIssues;
  readonly statements: StatementService;
  readonly store: ShareStore;
  readonly actor: Actor;
  /** where people reach the application */
  readonly url: string;
};
// nobody reads a board pack for longer, and a forgotten link ends
const MOST_DAYS = 366;
const DAY = 86_400_000;

/** Issued packs for people who have a link and nothing else. */
export class ShareService {
  readonly #parts: Parts;

  constructor(parts: Parts) {
    this.#parts = parts;
  }

  async list(at: IssueAt): Promise<PackShareDto[]> {
    await this.#issue(at);
    return this.#parts.store.list(at);
  }

  /** @throws ProblemError 404 for no such issue; 409 for one made before it could be shared; 422 for a last day that is past or too far away */
  async create(at: IssueAt, share: NewPackShare): Promise<CreatedPackShare> {
    const { store, issues, actor, url } = this.#parts;
    const { documents } = await this.#issue(at);
    await issues.reading(at, documents[0]!.slice);
    const now = today(actor.now());
    if (share.expires < now) throw refused(`${share.expires} is past. Enter a later day.`, 'expires');
    if (Date.parse(share.expires) - Date.parse(now) > MOST_DAYS * DAY)
      throw refused('A link opens for at most a year. Enter an earlier day.', 'expires');
    return store.create(at, share, { actor, link: (token) => `${url}/shared/${token}` });
  }

  revoke(at: IssueAt, id: number): Promise<void> {
    return this.#parts.store.revoke(at, id, this.#parts.actor);
  }

  /** What a link shows. @throws ProblemError 404 for no such link, 410 when it has ended */
  async open(token: string, slice: string | undefined): Promise<SharedPackDto> {
    const { issues, store, actor } = this.#parts;
    const share = await this.#share(token);
    const { name, monthName, documents } = await this.#issue(share);
    const slices = documents.map((document) => document.slice);
    const shown = slice !== undefined && slices.includes(slice) ? slice : slices[0]!;
    const { reading } = await issues.reading(share, shown);
    await store.opened(share, actor.now());
    const { expires, drillDown } = share;
    return { company: reading.company, name, monthName, expires, drillDown, slices, slice: shown, reading };
  }

  /** The PDF of the issue. @throws ProblemError 404, 410 */
  async pdf(token: string, slice: string): Promise<{ readonly content: Buffer; readonly name: string }> {
    const share = await this.#share(token);
    return this.#parts.issues.file(share, share.packIssue, { slice, format: 'pdf' });
  }

  /**
   * The accounts behind a figure, as the ledger has them now.
   * @throws ProblemError 403 when the link does not allow it; 404 for no such figure; 422 for what is no sum of accounts
   */
  async figure(token: string, { slice, section, line, column }: z.infer<typeof sharedFigureQuerySchema>): Promise<SharedFigureDto> {
    const { issues, statements } = this.#parts;
    const share = await this.#share(token);
    if (!share.drillDown)
      throw new ProblemError(403, 'Not shared', 'This link shows the pages only. Ask whoever sent it for the accounts behind a figure.');
    const { reading, sources } = await issues.reading(share, slice);
    const source = sources[section];
    const [table] = reading.sections.find(({ id }) => id === section)?.blocks.filter(({ kind }) => kind === 'table') ?? [];
    if (!source || table?.kind !== 'table') throw notFound('figure here that can be followed');
    const row = table.rows.find((each) => each.line === line);
    const at = table.columns.indexOf(column);
    if (!row || at < 0) throw notFound('figure here that can be followed');
    const { books, grid, shown } = await evaluatedSource({ statements }, share.company, source);
    const { rows, sum } = figureGroupsOf(books, grid, { by: 'account', line, column });
    const [lineAt, columnAt] = [grid.plan.lines, grid.plan.columns].map(
      (list, axis) => list.find(({ key }) => key === [line, column][axis])!.index,
    );
    const now = shown.cells[lineAt!]![columnAt!]!;
    const issued = await issues.amount(share, { slice, section, line, column });
    return {
      line: row.name,
      heading: table.headings[at + 1]!,
      text: row.cells[at]!.text,
      exponent: books.currency.exponent,
      accounts: rows.map(({ name, amount }) => ({ name, amount })),
      sum,
      agrees: now.kind === 'amount' && now.value === issued,
    };
  }

  async #share(token: string): Promise<StoredShare> {
    const { store, actor } = this.#parts;
    const share = await store.ofToken(token);
    if (!share) throw notFound('link like this');
    if (share.revokedAt !== null) throw new ProblemError(410, 'Link ended', 'This link was withdrawn. Ask whoever sent it for a new one.');
    if (share.expires < today(actor.now()))
      throw new ProblemError(410, 'Link ended', `This link ended on ${share.expires}. Ask whoever sent it for a new one.`);
    return share;
  }

  async #issue({ company, packIssue }: IssueAt) {
    const { booksCache, issues } = this.#parts;
    return issues.of(await booksCache.of(company), packIssue);
  }
}
