import type { PackDesign, PackState } from '@wise-margin/contract';
import type { IsoDate } from '@wise-margin/core';
import {
  type DimensionFilter,
  isEmptyText,
  longPeriodName,
  type PeriodIndex,
  type RichText,
  type Section,
  sectionDate,
} from '@wise-margin/core';

import { type Books, periodOf } from '../../companies/index.ts';
import { ProblemError, refused } from '../../http/problem.ts';
import { STATE_WORDS } from '../pack-months.ts';
import { unmetCondition } from './condition.ts';
import { type ContentBlock, type FilledSection, type PackContent, paragraph } from './content.ts';
import { draftSummary } from './draft-summary.ts';
import { filledText } from './fill-text.ts';
import { budgetChecksSection, findingsSection } from './finding-sections.ts';
import { accountDetailSection, agingSection, partiesSection, trialBalanceSection } from './report-sections.ts';
import { type SectionContext, sectionDateWords, type SectionSources, statementQuery } from './section-context.ts';
import {
  bridgeSection,
  chartsSection,
  type Filled,
  measuresSection,
  statementSection,
  textFigure,
  textTable,
} from './statement-sections.ts';

/** What a pack is made of in one month. */
export type PackRequest = {
  readonly design: Pick<PackDesign, 'name' | 'splitBy' | 'sections'>;
  readonly month: string;
  /** the day of the meeting; null for today */
  readonly meeting: string | null;
  readonly texts: Readonly<Record<string, RichText>>;
  readonly state: PackState;
  /** the value of the dimension a pack is split by; empty for the whole company */
  readonly slice: string;
};
type Dates = { readonly books: Books; readonly month: PeriodIndex; readonly meeting: IsoDate; readonly slice: DimensionFilter };
/** Sections without figures of their own have no date. */
const UNDATED: readonly Section['kind'][] = ['cover', 'contents', 'text', 'notes'];
const OF_ONE_DAY: readonly Section['kind'][] = ['aging'];
const SPLIT_NONE = 'none';

/** Filled sections that are kept until something changes: as many as a person works with at once. */
const MOST_HELD = 400;
/** Companies whose sections are kept; a run over many works on four at once. */
const MOST_COMPANIES = 6;

/** Fills the sections of packs with a company's figures. */
export class PackBuilder {
  readonly #sources: SectionSources;
  /** what is filled of each company, as long as nothing of it changes */
  readonly #held = new Map<number, { readonly stamp: string; readonly sections: Map<string, FilledSection> }>();

  constructor(sources: SectionSources) {
    this.#sources = sources;
  }

  /** The values a pack has a document for each of; empty for a pack of the whole company. @throws ProblemError 422 without the dimension */
  async slices(companyId: number, { splitBy }: Pick<PackDesign, 'splitBy'>): Promise<string[]> {
    if (splitBy === null) return [];
    const books = await this.#sources.booksCache.of(companyId);
    const dimension = books.dimensions.find(({ name }) => name === splitBy);
    if (!dimension)
      throw refused(
        `The pack is split by ${splitBy}, and the ledger of ${books.name} has no ${splitBy}. Choose another dimension or none.`,
        'splitBy',
      );
    return dimension.values.map((value) => value || SPLIT_NONE);
  }

  /** A pack with its figures. A section that cannot be filled says why on its page; the others are filled all the same. */
  async content(companyId: number, { design, month, meeting, texts, state, slice }: PackRequest): Promise<PackContent> {
    const books = await this.#sources.booksCache.of(companyId);
    const asOf = periodOf(books, month);
    const dates: Dates = {
      books,
      month: asOf,
      meeting: (meeting ?? today(this.#sources.actor.now())) as IsoDate,
      slice: design.splitBy === null || slice === '' ? {} : { [design.splitBy]: [slice === SPLIT_NONE ? '' : slice] },
    };
    const held = await this.#heldOf(companyId);
    const sections: FilledSection[] = [];
    for (const section of design.sections) {
      // footnotes are of the sections before them
      const key = section.kind === 'notes' ? null : keyOf([dates.month, dates.meeting, dates.slice, section, texts[section.id] ?? null]);
      const filled = (key === null ? undefined : held.get(key)) ?? (await this.#section(section, { dates, texts, before: sections }));
      if (key !== null && held.size < MOST_HELD) held.set(key, filled);
      sections.push(filled);
    }
    return {
      name: design.name,
      company: books.name,
      monthWords: longPeriodName(books.calendar, asOf),
      slice,
      // what was issued is frozen; this is of today’s ledger
      stateWords: state === 'issued' ? 'Draft for a reissue' : STATE_WORDS[state],
      sections,
      logo: await this.#sources.logos.of(companyId),
      fingerprint: '',
    };
  }

  /**
   * What is filled of a company since anything changed: an entry, a budget, a comment, a view, a limit. What an older request
   * still fills goes to what it was given, which is asked for no more.
   */
  async #heldOf(companyId: number): Promise<Map<string, FilledSection>> {
    const { database, booksCache, budgetStore } = this.#sources;
    // every change but the edits of a budget is in the audit trail: the company's own, and what is kept for all companies
    const [head] = await database.select<{ id: number }>(
      `SELECT id FROM audit_events WHERE company_id = $1 OR company_id IS NULL
         OR action GLOB 'view.*' OR action GLOB 'materiality.*' OR action GLOB 'benchmark.*' ORDER BY id DESC LIMIT 1`,
      [companyId],
    );
    const { version } = await booksCache.of(companyId);
    const budgets = (await budgetStore.list(companyId)).map(({ id, state, version: own }) => `${id}${state}${own}`);
    const stamp = JSON.stringify([head?.id, version, budgets]);
    const held = this.#held.get(companyId);
    this.#held.delete(companyId);
    const kept = held?.stamp === stamp ? held : { stamp, sections: new Map<string, FilledSection>() };
    this.#held.set(companyId, kept);
    const [oldest] = this.#held.keys();
    if (this.#held.size > MOST_COMPANIES && oldest !== undefined) this.#held.delete(oldest);
    return kept.sections;
  }

  async #section(
    section: Section,
    { dates, texts, before }: { readonly dates: Dates; readonly texts: PackRequest['texts']; readonly before: readonly FilledSection[] },
  ): Promise<FilledSection> {
    const { id, kind, title, orientation, startsPage } = section;
    const empty = {
      id,
      kind,
      title,
      orientation,
      startsPage,
      dateWords: '',
      blocks: [],
      notes: [],
      omissionReason: '',
      cover: null,
      source: null,
    };
    if (section.hidden) return { ...empty, omissionReason: 'Hidden' };
    if (section.kind === 'notes' && footnotesOf(before).length === 0)
      return { ...empty, omissionReason: 'The statements have no footnotes' };
    const date = sectionDate(dates.books.calendar, section.date, dates);
    if (date === null)
      return { ...empty, notes: ['The date of this section is outside the fiscal years of the company. Choose another date.'] };
    const context: SectionContext = { books: dates.books, date, slice: dates.slice };
    const dateWords = UNDATED.includes(kind) ? '' : sectionDateWords(context, OF_ONE_DAY.includes(kind));
    const cover = section.kind === 'cover' ? { subtitle: section.subtitle, preparedBy: section.preparedBy } : null;
    try {
      const omissionReason = await unmetCondition(this.#sources, section.condition, {
        companyId: context.books.id,
        query: statementQuery(context),
      });
      if (omissionReason !== '') return { ...empty, dateWords, omissionReason };
      return { ...empty, dateWords, cover, ...(await this.#filled(section, { context, texts, before })) };
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error;
      return { ...empty, dateWords, cover, notes: [error.detail] };
    }
  }

  async #filled(
    section: Section,
    {
      context,
      texts,
      before,
    }: { readonly context: SectionContext; readonly texts: PackRequest['texts']; readonly before: readonly FilledSection[] },
  ): Promise<Filled> {
    const sources = this.#sources;
    switch (section.kind) {
      case 'cover':
      case 'contents':
        return { blocks: [], notes: [] };
      case 'text':
        return section.written === 'monthly'
          ? this.#monthly(texts[section.id] ?? section.text, context)
          : this.#text(section.text, context);
      case 'statement':
        return statementSection(sources, section, context);
      case 'charts':
        return chartsSection(sources, section, context);
      case 'measures':
        return measuresSection(sources, section, context);
      case 'bridge':
        return bridgeSection(sources, section, context);
      case 'findings':
        return findingsSection(sources, section, context);
      case 'budgetChecks':
        return budgetChecksSection(sources, context);
      case 'aging':
        return agingSection(sources, section, context);
      case 'parties':
        return partiesSection(sources, section, context);
      case 'trialBalance':
        return trialBalanceSection(sources, section, context);
      case 'accountDetail':
        return accountDetailSection(sources, section, context);
      case 'notes':
        return { blocks: footnotesOf(before), notes: [] };
    }
  }

  /** The text of a month; while nobody wrote it, its draft, which says so. */
  async #monthly(text: RichText, context: SectionContext): Promise<Filled> {
    if (!isEmptyText(text)) return this.#text(text, context);
    const draft = await this.#text(await draftSummary(this.#sources, context), context);
    return {
      blocks: [paragraph('Draft. Edit or accept it before the pack is issued.', 'soft'), ...draft.blocks],
      notes: ['The text is a draft that nobody accepted yet.', ...draft.notes],
    };
  }

  /** The drafted text of a month, for whoever edits or accepts it. */
  async draft(companyId: number, month: string): Promise<RichText> {
    const books = await this.#sources.booksCache.of(companyId);
    const dates: Dates = { books, month: periodOf(books, month), meeting: today(this.#sources.actor.now()) as IsoDate, slice: {} };
    const date = sectionDate(books.calendar, { kind: 'month' }, dates)!;
    return draftSummary(this.#sources, { books, date, slice: {} });
  }

  async #text(text: RichText, context: SectionContext): Promise<Filled> {
    if (isEmptyText(text)) return { blocks: [], notes: ['No text yet.'] };
    const notes: string[] = [];
    const orNote = async <Answer>(work: Promise<Answer>, instead: Answer): Promise<Answer> => {
      try {
        return await work;
      } catch (error) {
        if (!(error instanceof ProblemError)) throw error;
        notes.push(error.detail);
        return instead;
      }
    };
    const blocks = await filledText(text, {
      figure: (figure) => orNote(textFigure(this.#sources, figure, context), '[no figure]'),
      table: (view, lines) => orNote<ContentBlock>(textTable(this.#sources, { view, lines }, context), paragraph('[no table]', 'soft')),
    });
    return { blocks, notes };
  }
}

/** Footnotes of the statements before, under the title of each. */
function footnotesOf(sections: readonly FilledSection[]): ContentBlock[] {
  const notes = sections.flatMap(({ title, blocks }) =>
    blocks.flatMap((block) =>
      block.kind === 'statement' ? block.statement.dto.head.footnotes.map((text) => paragraph(`${title}: ${text}`)) : [],
    ),
  );
  return notes;
}

/** One text for one value: what is saved and what an editor sends have their fields in different orders. */
const keyOf = (value: unknown): string =>
  JSON.stringify(value, (_, part: unknown) =>
    typeof part === 'object' && part !== null && !Array.isArray(part)
      ? Object.fromEntries(Object.entries(part).sort(([one], [other]) => (one < other ? -1 : 1)))
      : part,
  );

/** The day it is where the server is. */
export const today = (now: Date): string =>
  `${now.getFullYear()}-${String(now.getMonth() + 1).padStart(2, '0')}-${String(now.getDate()).padStart(2, '0')}`;
