import type { CombinedQuery, CompanyGroupChange, CompanyGroupDto, FigureGroupsDto } from '@wise-margin/contract';
import {
  actualThrough,
  CASH_FLOW,
  type ColumnSet,
  companyColumns,
  evaluate,
  formatAmount,
  INTERCOMPANY,
  type LineSet,
  longPeriodName,
  minor,
  NO_ACTUALS,
  NO_BENCHMARKS,
  NO_FILTER,
  periodAt,
  type PeriodIndex,
  resolveSpan,
  shortPeriodName,
  spanWords,
} from '@wise-margin/core';

import { type Books, type BooksCache, periodOf } from '../companies/index.ts';
import type { Actor } from '../database/audit.ts';
import { PlanCache } from '../evaluation/index.ts';
import { refused } from '../http/problem.ts';
import { type EvaluatedView, evaluatedView, figureGroupsOf, runOf, type ViewStore } from '../statements/index.ts';
import type { CombinedBooks, CombinedBooksCache } from './combined-books.ts';
import { companyEntries } from './company-entries.ts';
import type { CompanyGroup, GroupStore } from './group-store.ts';

/** The line of the statement of cash flows that shows what its other lines leave over. */
const UNEXPLAINED_CASH = 'unexplained';

/** Where a combined statement is: a group and the key of a view. */
export type CombinedPlace = { readonly companyGroup: number; readonly view: string };

/** Statements of several companies together. */
export class CombinedService {
  readonly #booksCache: BooksCache;
  readonly #groups: GroupStore;
  readonly #combined: CombinedBooksCache;
  readonly #views: ViewStore;
  readonly #actor: Actor;
  readonly #plans = new PlanCache();
  readonly #translated = new WeakMap<LineSet, LineSet>();

  constructor(options: {
    readonly booksCache: BooksCache;
    readonly groups: GroupStore;
    readonly combined: CombinedBooksCache;
    readonly views: ViewStore;
    readonly actor: Actor;
  }) {
    this.#booksCache = options.booksCache;
    this.#groups = options.groups;
    this.#combined = options.combined;
    this.#views = options.views;
    this.#actor = options.actor;
  }

  async list(): Promise<CompanyGroupDto[]> {
    return Promise.all((await this.#groups.list()).map((group) => this.#dto(group)));
  }

  async of(id: number): Promise<CompanyGroupDto> {
    return this.#dto(await this.#groups.of(id));
  }

  /** @throws ProblemError 422 for a company named twice, a lead outside the group, or an account a company does not have */
  async create(change: CompanyGroupChange): Promise<CompanyGroupDto> {
    await this.#refuseUnknown(change);
    return this.of(await this.#groups.create(change, this.#actor));
  }

  /** @throws ProblemError 409, 422 */
  async change(id: number, change: CompanyGroupChange & { readonly version: number }): Promise<CompanyGroupDto> {
    await this.#refuseUnknown(change);
    await this.#groups.change(id, change, this.#actor);
    return this.of(id);
  }

  remove(id: number): Promise<void> {
    return this.#groups.remove(id, this.#actor);
  }

  /**
   * A view of the group's leading company with the figures of all.
   * @throws ProblemError 404 for no such group or view; 422 for a month outside the calendar or missing rates
   */
  async evaluated({ companyGroup, view: key }: CombinedPlace, query: CombinedQuery): Promise<EvaluatedView> {
    const group = await this.#groups.of(companyGroup);
    const combined = await this.#combined.of(group);
    const { books } = combined;
    const stored = await this.#views.of(group.lead, key, this.#actor);
    const columnSet: ColumnSet = query.columns === 'view' ? stored.columnSet : companyColumns(query.span, query.scenario);
    const asOf = periodOf(books, query.asOf);
    const subtitle = query.columns === 'view' ? stored.display.subtitle : periodWords(books, query, asOf);
    const display = { ...stored.display, ...(subtitle === undefined ? {} : { subtitle }) };
    const run = runOf(books, { display, choices: {} }, { ...query, filter: {} });
    const view = { ...stored, open: undefined, name: stored.name };
    const { plan, issues } = this.#plans.plan(books, {
      lineSet: this.#linesFor(combined, stored.lineSet),
      columnSet,
      asOf,
      benchmarks: NO_BENCHMARKS,
      filter: NO_FILTER,
      last: books.lastActual,
      through: actualThrough(books, asOf) ?? NO_ACTUALS,
    });
    const cashFlow = plan.lines.some((line) => CASH_FLOW in line.filter);
    const grid = evaluate(plan, await combined.sources({ cashFlow, asOf }), NO_FILTER);
    const { year } = periodAt(books.calendar, asOf);
    const evaluation = { grid, issues, budgets: new Map(), standing: () => null, lastShown: null };
    const evaluated = evaluatedView(evaluation, {
      books,
      run,
      view,
      asOf,
      budgetWords: `approved budgets of the companies for FY${year}`,
      printed: this.#actor.now(),
    });
    const notes = notesOn(combined, asOf);
    return {
      ...evaluated,
      dto: () => {
        const dto = evaluated.dto();
        return { ...dto, issues: [...notes, ...dto.issues] };
      },
    };
  }

  /** A combined figure by company, account or month; a row of one company leads to its entries. @throws ProblemError 404, 422 */
  async figureGroups(place: CombinedPlace, query: CombinedQuery & Parameters<typeof figureGroupsOf>[2]): Promise<FigureGroupsDto> {
    const { books, grid } = await this.evaluated(place, query);
    const combined = await this.#combined.of(await this.#groups.of(place.companyGroup));
    const groups = figureGroupsOf(books, grid, query);
    return { ...groups, rows: groups.rows.map((row) => ({ ...row, entries: companyEntries(combined, row.entries) })) };
  }

  /** With companies in several currencies, cash that flows do not explain is the effect of exchange rates. */
  #linesFor({ isTranslated }: CombinedBooks, lineSet: LineSet): LineSet {
    if (!isTranslated) return lineSet;
    const made: LineSet = this.#translated.get(lineSet) ?? {
      ...lineSet,
      lines: lineSet.lines.map((line) => (line.key === UNEXPLAINED_CASH ? { ...line, name: 'Effect of exchange rates on cash' } : line)),
    };
    this.#translated.set(lineSet, made);
    return made;
  }

  async #dto({ id, name, currency, lead, version, members }: CompanyGroup): Promise<CompanyGroupDto> {
    return {
      ...{ id, name, currency, lead, version },
      members: await Promise.all(
        members.map(async ({ company, intercompany }) => {
          const books = await this.#booksCache.of(company);
          return {
            company,
            name: books.name,
            currency: books.currency.code,
            intercompany: [...intercompany],
            lastPosted: books.lastPosted === null ? null : shortPeriodName(books.calendar, books.lastPosted),
          };
        }),
      ),
    };
  }

  async #refuseUnknown({ members, lead }: CompanyGroupChange): Promise<void> {
    const companies = members.map(({ company }) => company);
    const repeated = companies.find((company, index) => companies.indexOf(company) !== index);
    for (const [index, { company, intercompany }] of members.entries()) {
      const books = await this.#booksCache.of(company);
      // its figures could not be told from what is left out between the companies
      if (books.name === INTERCOMPANY)
        throw refused(`A company named ${INTERCOMPANY} cannot be in a group. Choose other companies.`, `members.${index}.company`);
      if (company === repeated) throw refused(`${books.name} is in the group twice. Keep it once.`, `members.${index}.company`);
      const known = new Set(books.chart.accounts.map(({ number }) => number));
      const unknown = intercompany.filter((number) => !known.has(number));
      if (unknown.length > 0)
        throw refused(
          `${books.name} has no account ${unknown.join(', ')}. Enter account numbers of ${books.name}.`,
          `members.${index}.intercompany`,
        );
    }
    if (!companies.includes(lead)) throw refused('The leading company is not in the group. Choose one of its companies.', 'lead');
  }
}

/** The months that companies are set side by side over: `Apr 2026 to Oct 2026`. */
function periodWords({ calendar }: Books, { span }: CombinedQuery, asOf: PeriodIndex): string {
  const resolved = resolveSpan(calendar, { kind: span }, { asOf });
  return resolved.ok ? spanWords(calendar, resolved.span) : '';
}

/** What a reader has to know about the companies' figures at a month. */
function notesOn(
  { books, members, months, intercompanyDifference }: CombinedBooks,
  asOf: PeriodIndex,
): { readonly place: string; readonly message: string; readonly fix: string }[] {
  const lagging = months.flatMap(({ name, last }, index) => {
    if (last !== null && last >= asOf) return [];
    const own = members[index]!;
    const through = own.lastActual === null ? 'Nothing is posted' : `Actuals through ${longPeriodName(own.calendar, own.lastActual)}`;
    return [{ place: name, message: through, fix: 'Post its later months, or choose an earlier month, to see all companies together' }];
  });
  const difference = intercompanyDifference(asOf);
  if (difference === 0) return lagging;
  const amount = formatAmount(minor(Math.abs(difference)), { exponent: books.currency.exponent, unit: 'cents', sign: books.currency.sign });
  return [
    ...lagging,
    {
      place: 'Intercompany accounts',
      message: `They do not agree: ${amount} is left at ${longPeriodName(books.calendar, asOf)}, shown as Intercompany difference`,
      fix: 'Check the intercompany accounts of each company',
    },
  ];
}
