import type {
  PackChecklistDto,
  PackFormat,
  PackIssueDto,
  PackListDto,
  PackMonthDto,
  PackPageDto,
  PackPreviewDto,
  PackPreviewRequest,
} from '@wise-margin/contract';
import { longPeriodName, type RichText } from '@wise-margin/core';

import { type BooksCache, type Logo, periodOf } from '../companies/index.ts';
import type { Actor } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import type { FindingList, TieOuts } from '../findings/index.ts';
import { refused } from '../http/problem.ts';
import type { WorkPool } from '../work/work-pool.ts';
import type { PackContent } from './content/content.ts';
import { fingerprintOf, issuedFigures } from './content/issued-figures.ts';
import { type PackBuilder, type PackRequest, today } from './content/pack-builder.ts';
import { layOut, readyForDocuments, readyForPages, writeIssue, writePack } from './files/pack-formats.ts';
import { hasSections, packChecklist } from './pack-checklist.ts';
import { fileName, type FrozenDocument, type PackIssues } from './pack-issues.ts';
import { type MonthPlace, type PackMonths, STATE_WORDS } from './pack-months.ts';
import type { PackStore } from './pack-store.ts';
import { sourceStamp } from './source-stamp.ts';

type Parts = {
  readonly database: Database;
  readonly booksCache: BooksCache;
  readonly store: PackStore;
  readonly months: PackMonths;
  readonly issues: PackIssues;
  readonly builder: PackBuilder;
  readonly findingList: FindingList;
  readonly tieOuts: TieOuts;
  readonly work: WorkPool;
  readonly actor: Actor;
};

const READING_MILLISECONDS = 1500;

/** Packs of a company: seen before they are issued, checked, issued, and read afterwards. */
export class PackService {
  readonly #parts: Parts;
  readonly #filling = new Set<number>();

  constructor(parts: Parts) {
    this.#parts = parts;
  }

  /** The packs a company sees, with where each is in a month. */
  async list(companyId: number, month: string | undefined): Promise<PackListDto> {
    const { store, months, issues, booksCache } = this.#parts;
    const books = await booksCache.of(companyId);
    const packs = await store.list(companyId);
    const states = month === undefined ? new Map<string, never>() : await months.states(companyId, month);
    const issued = await issues.list(books);
    return packs.map(({ key, name, note, scope, splitBy, sections }) => ({
      key,
      name,
      note,
      scope,
      splitBy,
      sections: sections.length,
      state: states.get(key) ?? null,
      lastIssue: issued.find(({ pack }) => pack === key) ?? null,
    }));
  }

  /**
   * Starts what pages are laid out with, and fills the packs of a month that are likely to be opened, so that they show at
   * once. Nobody waits for it: whatever cannot be filled is told to whoever opens the pack.
   */
  async ready(companyId: number, month: string): Promise<void> {
    const { booksCache, work } = this.#parts;
    periodOf(await booksCache.of(companyId), month);
    readyForPages(work);
    if (this.#filling.has(companyId)) return;
    this.#filling.add(companyId);
    void this.#fill(companyId, month)
      .catch(() => undefined)
      .finally(() => this.#filling.delete(companyId));
  }

  async #fill(company: number, month: string): Promise<void> {
    const { store, months, builder, work } = this.#parts;
    const begun = await months.states(company, month);
    // the first of the list, and those somebody works on: more would keep them waiting
    const likely = (await store.list(company))
      .filter(({ splitBy }) => splitBy === null)
      .filter(({ key }, at) => at === 0 || begun.has(key));
    for (const [at, { key }] of likely.entries()) {
      const content = await builder.content(company, await this.#request({ company, pack: key, month }));
      // the first pages a thread lays out take three times as long as the next
      if (at === 0) await layOut(work, content);
    }
  }

  async month(place: MonthPlace): Promise<PackMonthDto> {
    const { store, months, issues, booksCache } = this.#parts;
    const books = await booksCache.of(place.company);
    await store.of(place);
    const { state, meeting, texts, version } = await months.of(place);
    return {
      pack: place.pack,
      month: place.month,
      monthName: longPeriodName(books.calendar, periodOf(books, place.month)),
      state,
      meeting,
      texts: { ...texts },
      version,
      issues: await issues.list(books, place),
    };
  }

  /** The pages of a pack as an editor has it, saved or not. */
  async preview(companyId: number, asked: PackPreviewRequest, signal?: AbortSignal): Promise<PackPreviewDto> {
    const { builder, work } = this.#parts;
    const slices = await builder.slices(companyId, asked);
    const { month, meeting, texts, state } = asked;
    const slice = slices.length === 0 ? '' : asked.slice !== undefined && slices.includes(asked.slice) ? asked.slice : slices[0]!;
    const content = await builder.content(companyId, { design: asked, month, meeting, texts, state, slice });
    const laidOut = await layOut(work, content, signal);
    // while the pages are read: an edit within a second would wait for it
    setTimeout(() => readyForDocuments(work), READING_MILLISECONDS).unref();
    return {
      pages: laidOut.pages,
      sections: content.sections.map(({ id, title, dateWords, omissionReason, notes }, at) => {
        const page = laidOut.starts[at] ?? null;
        return { id, title, dateWords, page: page === null ? null : page + 1, omissionReason, notes: [...notes] };
      }),
      slices,
      logo: logoAddress(content.logo),
    };
  }

  /** The summary that a month drafts itself. @throws ProblemError 404 for no such pack, 422 for a month outside the calendar */
  async draftedSummary(place: MonthPlace): Promise<RichText> {
    await this.#parts.store.of(place);
    return this.#parts.builder.draft(place.company, place.month);
  }

  async checklist(place: MonthPlace): Promise<PackChecklistDto> {
    const { booksCache } = this.#parts;
    const request = await this.#request(place);
    const contents = await this.#contents(place, request);
    return { items: await packChecklist(this.#parts, await booksCache.of(place.company), { request, contents }) };
  }

  /** A saved pack in one format, as it is now. @throws ProblemError 422 for a value that the pack has no document of */
  async export(
    place: MonthPlace,
    { slice, format, signal }: { readonly slice: string; readonly format: PackFormat; readonly signal: AbortSignal },
  ): Promise<{ readonly content: Buffer; readonly name: string }> {
    const { builder, work } = this.#parts;
    const request = await this.#request(place);
    const slices = await builder.slices(place.company, request.design);
    const shown = slices.length === 0 ? '' : slices.includes(slice) ? slice : slices[0]!;
    const content = await builder.content(place.company, { ...request, slice: shown });
    return { content: await writePack(work, { content, format, signal }), name: fileName({ ...place, slice: shown, format }) };
  }

  /**
   * Issues a pack: its figures, pages and files are frozen, one document for each value it is split by. A change of
   * anything it is made of (ledger, budgets, views, comments, limits, rates) stops it, so that all documents are of one moment.
   * @param options.by who issues, when it is a schedule; `day` the day of the meeting, by default today
   * @throws ProblemError 409 when something it is made of changed meanwhile, and 422 where no document has a section;
   *   nothing is issued then
   */
  async issue(place: MonthPlace, { by, day }: { readonly by?: Actor; readonly day?: string } = {}): Promise<PackIssueDto> {
    const { database, booksCache, issues, work } = this.#parts;
    const actor = by ?? this.#parts.actor;
    const stamp = await sourceStamp(database, place.company);
    const books = await booksCache.of(place.company);
    const request: PackRequest = { ...(await this.#request(place)), meeting: day ?? today(actor.now()), state: 'issued' };
    const documents: FrozenDocument[] = [];
    const contents = await this.#contents(place, request);
    if (!contents.some(hasSections))
      throw refused(`${request.design.name} has nothing to issue: none of its sections is included. Show one of them.`);
    for (const made of contents) {
      const content: PackContent = { ...made, stateWords: STATE_WORDS.issued, fingerprint: fingerprintOf(made) };
      const { laidOut, reading, files } = await writeIssue(work, content);
      documents.push({
        slice: content.slice,
        fingerprint: content.fingerprint,
        pages: laidOut.pages,
        logo: logoAddress(content.logo),
        reading,
        sources: Object.fromEntries(content.sections.flatMap(({ id, source }) => (source === null ? [] : [[id, source]]))),
        figures: issuedFigures(content),
        files,
      });
    }
    const id = await issues.freeze(place, { name: request.design.name, documents, actor, stamp });
    return issues.of(books, id);
  }

  async issued(companyId: number, id: number): Promise<PackIssueDto> {
    return this.#parts.issues.of(await this.#parts.booksCache.of(companyId), id);
  }

  /** The pages of an issue with the logo they had. */
  async issuedPages(
    companyId: number,
    id: number,
    slice: string,
  ): Promise<{ readonly pages: PackPageDto[]; readonly logo: string | null }> {
    const { pages, logo } = await this.#parts.issues.pages({ company: companyId }, id, slice);
    return { pages, logo };
  }

  async #request(place: MonthPlace): Promise<PackRequest> {
    const { store, months } = this.#parts;
    const [design, { meeting, texts, state }] = [await store.of(place), await months.of(place)];
    return { design, month: place.month, meeting, texts, state, slice: '' };
  }

  /** A document for each value a pack is split by, or one of the whole company. */
  async #contents({ company }: MonthPlace, request: PackRequest): Promise<PackContent[]> {
    const { builder } = this.#parts;
    const slices = await builder.slices(company, request.design);
    const contents: PackContent[] = [];
    for (const slice of slices.length === 0 ? [''] : slices) contents.push(await builder.content(company, { ...request, slice }));
    return contents;
  }
}

const logoAddress = (logo: Logo | null): string | null => (logo ? `data:${logo.type};base64,${logo.base64}` : null);
