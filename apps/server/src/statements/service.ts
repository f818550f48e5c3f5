import {
  INCOME_LINES,
  SHIPPED_COLUMN_SETS,
  STRIP_COLUMNS,
  evaluate,
  periodAt,
  periodOfYear,
  planStatement,
  shortPeriodName,
  type ColumnSet,
  type DimensionFilter,
  type PeriodIndex,
  type StatementGrid,
} from '@wise-margin/core';
import type { GridDto, StatementQuery, StripDto } from '@wise-margin/contract';
import type { BudgetStore } from '../budgets/index.ts';
import type { Books, BooksKeeper } from '../companies/books.ts';
import { periodOf, refuseUnknownFilter } from '../companies/service.ts';
import { ProblemError } from '../http/problem.ts';
import { gridDto } from './grid-dto.ts';
import { budgetsByYear, scenarioSources } from './sources.ts';

/** Plans and evaluates a statement over the books. @throws ProblemError 422 with every fault of a line or column set */
export async function evaluateStatement(options: {
  readonly books: Books;
  readonly store: BudgetStore;
  readonly columnSet: ColumnSet;
  readonly asOf: PeriodIndex;
  readonly budgetId?: number | undefined;
  readonly filter: DimensionFilter;
}): Promise<StatementGrid> {
  const { books, store, columnSet, asOf, budgetId, filter } = options;
  const planned = planStatement({ lineSet: INCOME_LINES, columnSet, chart: books.chart, calendar: books.calendar, asOf });
  if (!planned.ok) {
    const told = planned.issues.map((issue) => ({
      path: issue.of === 'line' ? issue.line : `${issue.block}.${issue.column}`,
      message: `${issue.code}: ${issue.token}`,
    }));
    throw new ProblemError(
      422,
      'The statement cannot be laid out',
      told.map(({ path, message }) => `${path}: ${message}`).join('; '),
      told,
    );
  }
  return evaluate(planned.plan, await scenarioSources(books, store, budgetId), filter);
}

export class StatementService {
  readonly #keeper: BooksKeeper;
  readonly #store: BudgetStore;

  constructor(keeper: BooksKeeper, store: BudgetStore) {
    this.#keeper = keeper;
    this.#store = store;
  }

  /** The income statement as asked for. */
  async income(companyId: number, query: StatementQuery): Promise<GridDto> {
    const { grid, budgetWords } = await this.incomeGrid(companyId, query);
    return gridDto(grid, { budget: budgetWords });
  }

  /** The evaluated grid itself, for the trail and the exports. */
  async incomeGrid(companyId: number, query: StatementQuery): Promise<{ books: Books; grid: StatementGrid; budgetWords: string }> {
    const books = await this.#keeper.of(companyId);
    refuseUnknownFilter(books, query.filter);
    const asOf = periodOf(books, query.asOf);
    const grid = await evaluateStatement({
      books,
      store: this.#store,
      columnSet: SHIPPED_COLUMN_SETS[query.columns]!,
      asOf,
      budgetId: query.budget,
      filter: query.filter,
    });
    const { year } = periodAt(books.calendar, asOf);
    const budget = (await budgetsByYear(books, this.#store, query.budget)).get(year);
    return {
      books,
      grid,
      budgetWords: budget
        ? `FY${year} ${budget.row.name}${budget.row.state === 'approved' ? ' (approved)' : ''}`
        : `no budget for FY${year}`,
    };
  }

  /** Operating result of every month of the as-of year and the two before it. */
  async strip(companyId: number, query: StatementQuery): Promise<StripDto> {
    const books = await this.#keeper.of(companyId);
    refuseUnknownFilter(books, query.filter);
    const { year } = periodAt(books.calendar, periodOf(books, query.asOf));
    const months: StripDto['months'] = [];
    for (const each of [year - 2, year - 1, year]) {
      const first = periodOfYear(books.calendar, each, 1);
      if (first === null) continue;
      const grid = await evaluateStatement({
        books,
        store: this.#store,
        columnSet: STRIP_COLUMNS,
        asOf: first,
        budgetId: query.budget,
        filter: query.filter,
      });
      const line = grid.plan.lines.findIndex(({ key }) => key === 'operating_result');
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
        });
      });
    }
    return { months };
  }
}
