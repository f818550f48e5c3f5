import type {
  CoverageDto,
  DisplayChoices,
  GridDto,
  LineTrendDto,
  lineTrendQuerySchema,
  previewRequestSchema,
  RunChoices,
  StatementQuery,
  StripDto,
} from '@wise-margin/contract';
import {
  type ColumnSet,
  type Display,
  INCOME_LINES,
  LINE_TREND_COLUMNS,
  type LineSet,
  periodAt,
  type PeriodIndex,
  periodOfYear,
  quarterColumns,
  shippedView,
  shortPeriodName,
  STRIP_COLUMNS,
} from '@wise-margin/core';
import type { z } from 'zod';

import { type Books, type BooksCache, periodCode, periodOf, periodStates, refuseUnknownFilter } from '../companies/index.ts';
import type { Actor } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import type { Evaluator } from '../evaluation/index.ts';
import { coverageDto, YEAR_TO_DATE } from './coverage.ts';
import { type EvaluatedView, evaluatedView } from './evaluated-view.ts';
import { lineTrendDto } from './line-trend.ts';
import { runOf } from './run-choices.ts';
import type { ViewStore } from './views/view-store.ts';

type AskedView = {
  readonly key: string;
  readonly name: string;
  readonly note: string;
  readonly open: 'all' | undefined;
  readonly lineSet: LineSet;
  readonly columnSet: ColumnSet;
  readonly display: DisplayChoices;
  readonly choices: RunChoices;
};
const AS_USUAL = { display: {}, choices: {} } as const;

/** Statements as they are asked for. */
export class StatementService {
  readonly #database: Database;
  readonly #booksCache: BooksCache;
  readonly #evaluator: Evaluator;
  readonly #views: ViewStore;
  readonly #actor: Actor;
  /** shipped columns fitted to a company's dimensions, so that they stay laid out */
  readonly #fitted = new WeakMap<Books, Map<ColumnSet, ColumnSet>>();
  readonly #quarters = new WeakMap<ColumnSet, ColumnSet>();

  constructor(options: {
    readonly database: Database;
    readonly booksCache: BooksCache;
    readonly evaluator: Evaluator;
    readonly views: ViewStore;
    readonly actor: Actor;
  }) {
    this.#database = options.database;
    this.#booksCache = options.booksCache;
    this.#evaluator = options.evaluator;
    this.#views = options.views;
    this.#actor = options.actor;
  }

  /** A view as asked for. @throws ProblemError 404 */
  async statement(companyId: number, view: string, query: StatementQuery): Promise<GridDto> {
    return (await this.evaluated(companyId, view, query)).dto();
  }

  /**
   * The evaluated grid itself, for the drill-down and the exports.
   * @param query.by the dimension figures of it will be laid out by
   * @param query.columnSet columns in place of the view's own
   * @param query.display choices of display over the view's own
   * @param query.isQuarter months as the quarter to date
   */
  async evaluated(
    companyId: number,
    key: string,
    query: StatementQuery & {
      readonly by?: string;
      readonly columnSet?: ColumnSet;
      readonly display?: Partial<Display>;
      readonly isQuarter?: boolean;
    },
  ): Promise<EvaluatedView> {
    const books = await this.#booksCache.of(companyId);
    const view = await this.#viewOf(companyId, key);
    const columnSet = query.columnSet ?? this.#columnsFor(books, view.columnSet);
    const asked = {
      ...view,
      columnSet: query.isQuarter ? this.#overQuarter(columnSet) : columnSet,
      display: { ...view.display, ...query.display } as DisplayChoices,
    };
    return this.#evaluated(books, { view: asked, dimension: query.by }, query);
  }

  /** Columns over the quarter to date, one object for one column set, so that they stay laid out. */
  #overQuarter(columnSet: ColumnSet): ColumnSet {
    const made = this.#quarters.get(columnSet) ?? quarterColumns(columnSet);
    this.#quarters.set(columnSet, made);
    return made;
  }

  /** Lines of a view by month of the year, for their charts; without keys all that are shown and hold figures. */
  async lineTrends(companyId: number, key: string, query: z.infer<typeof lineTrendQuerySchema>): Promise<LineTrendDto[]> {
    const books = await this.#booksCache.of(companyId);
    const view = await this.#viewOf(companyId, key);
    const { filter, onlyAccounts, drafts } = runOf(books, view, query);
    const { grid } = await this.#evaluator.evaluate(books, {
      lineSet: view.lineSet,
      columnSet: LINE_TREND_COLUMNS,
      asOf: periodOf(books, query.asOf),
      budgetId: query.budget,
      filter,
      onlyAccounts,
      drafts,
    });
    const all = grid.plan.lines.filter(
      ({ hidden, source, kind }) => !hidden && source.kind !== 'nothing' && kind !== 'account' && kind !== 'slice',
    );
    const asked = query.lines === undefined ? all.map((line) => line.key) : query.lines.split(',');
    return asked.map((line) => lineTrendDto(grid, line));
  }

  /** A shipped column set by department serves a company without departments by its first dimension. */
  #columnsFor(books: Books, columnSet: ColumnSet): ColumnSet {
    const [first] = books.dimensions;
    if (!first || books.dimensions.some(({ name }) => name === 'department')) return columnSet;
    const held = this.#fitted.get(books) ?? new Map<ColumnSet, ColumnSet>();
    this.#fitted.set(books, held);
    const blocks = columnSet.blocks.map((block) =>
      block.repeat?.over === 'dimension' && block.repeat.dimension === 'department'
        ? { ...block, repeat: { ...block.repeat, dimension: first.name } }
        : block,
    );
    const made = held.get(columnSet) ?? { ...columnSet, blocks };
    held.set(columnSet, made);
    return made;
  }

  /** A statement that is not saved, as an editor has it. */
  async preview(
    companyId: number,
    request: z.infer<typeof previewRequestSchema>,
  ): Promise<{ grid: GridDto; coverage: CoverageDto | null }> {
    const books = await this.#booksCache.of(companyId);
    const { name, lineSet, columnSet, asOf, budget, display, choices } = request;
    const view = { key: 'preview', name, note: '', open: undefined, lineSet, columnSet, display, choices };
    const parts = request.open && new Set(request.open);
    const grid = (await this.#evaluated(books, { view, parts, isDraft: true }, { asOf, budget, filter: {} })).dto();
    if (!request.withCoverage || lineSet.lines.length === 0) return { grid, coverage: null };
    const of = async (lines: LineSet) =>
      (await this.#evaluator.evaluate(books, { lineSet: lines, columnSet: YEAR_TO_DATE, asOf: periodOf(books, asOf), filter: {} })).grid;
    return { grid, coverage: coverageDto(books, await of(lineSet), await of(INCOME_LINES)) };
  }

  async #viewOf(companyId: number, key: string): Promise<AskedView> {
    const shipped = shippedView(key);
    if (shipped) return { ...AS_USUAL, ...shipped, open: shipped.open };
    const { name, note, lineSet, columnSet, display, choices } = await this.#views.of(companyId, key, this.#actor);
    return { key, name, note, open: undefined, lineSet, columnSet, display, choices };
  }

  /**
   * @param parts keys of the lines whose parts are wanted; all when left out
   * @param isDraft whether it is in an editor, which itself says what is not filled in yet
   */
  async #evaluated(
    books: Books,
    {
      view,
      parts,
      isDraft = false,
      dimension,
    }: {
      readonly view: AskedView;
      readonly parts?: ReadonlySet<string> | undefined;
      readonly isDraft?: boolean;
      readonly dimension?: string | undefined;
    },
    query: StatementQuery,
  ): Promise<EvaluatedView> {
    const run = runOf(books, view, query);
    const asOf = periodOf(books, query.asOf);
    const { lineSet, columnSet } = view;
    const evaluation = await this.#evaluator.evaluate(books, { ...run, lineSet, columnSet, asOf, budgetId: query.budget, dimension });
    const { year } = periodAt(books.calendar, asOf);
    const budget = evaluation.budgets.get(year);
    const budgetWords = budget
      ? `FY${year} ${budget.row.name}${budget.row.state === 'approved' ? ' (approved)' : ''}`
      : `no budget for FY${year}`;
    return evaluatedView(evaluation, { books, run, view, asOf, budgetWords, parts, isDraft, printed: this.#actor.now() });
  }

  /** Operating income of every month of the as-of year and the two before it. */
  async strip(companyId: number, query: StatementQuery): Promise<StripDto> {
    const books = await this.#booksCache.of(companyId);
    refuseUnknownFilter(books, query.filter);
    const { year } = periodAt(books.calendar, periodOf(books, query.asOf));
    const states = await periodStates(this.#database, companyId);
    const months: StripDto['months'] = [];
    for (const each of [year - 2, year - 1, year]) {
      const first = periodOfYear(books.calendar, each, 1);
      if (first === null) continue;
      const { grid } = await this.#evaluator.evaluate(books, {
        lineSet: INCOME_LINES,
        columnSet: STRIP_COLUMNS,
        asOf: first,
        budgetId: query.budget,
        filter: query.filter,
      });
      const line = grid.plan.lines.findIndex(({ key }) => key === 'operating_income');
      grid.plan.columns.forEach((column, position) => {
        const cell = grid.cells[line]![column.index]!;
        const amount = cell.kind === 'amount' ? cell.value : null;
        if (position % 2 === 1) return void (months.at(-1)!.budget = amount);
        const period = periodAt(books.calendar, (first + position / 2) as PeriodIndex);
        const name = shortPeriodName(books.calendar, period.index);
        months.push({
          period: period.key,
          year: period.year,
          number: period.number,
          letter: name.slice(0, 1),
          name,
          actual: amount,
          budget: null,
          state: states.get(periodCode(period.year, period.number)) ?? 'open',
        });
      });
    }
    return { months };
  }
}
