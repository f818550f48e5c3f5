import {
  INCOME_LINES,
  SHIPPED_COLUMN_SETS,
  STRIP_COLUMNS,
  periodAt,
  periodOfYear,
  shortPeriodName,
  type PeriodIndex,
} from '@wise-margin/core';
import type { GridDto, StatementQuery, StripDto } from '@wise-margin/contract';
import type { Books, BooksKeeper } from '../companies/books.ts';
import { periodOf, refuseUnknownFilter } from '../companies/service.ts';
import type { Evaluation, Evaluator } from './evaluator.ts';
import { gridDto } from './grid-dto.ts';

/** Statements as they are asked for. */
export class StatementService {
  readonly #keeper: BooksKeeper;
  readonly #evaluator: Evaluator;

  constructor(keeper: BooksKeeper, evaluator: Evaluator) {
    this.#keeper = keeper;
    this.#evaluator = evaluator;
  }

  /** The income statement as asked for. */
  async income(companyId: number, query: StatementQuery): Promise<GridDto> {
    const { grid, budgetWords } = await this.incomeGrid(companyId, query);
    return gridDto(grid, { budget: budgetWords });
  }

  /** The evaluated grid itself, for the trail and the exports. */
  async incomeGrid(companyId: number, query: StatementQuery): Promise<Evaluation & { books: Books; budgetWords: string }> {
    const books = await this.#keeper.of(companyId);
    refuseUnknownFilter(books, query.filter);
    const asOf = periodOf(books, query.asOf);
    const { grid, budgets } = await this.#evaluator.evaluate(books, {
      lineSet: INCOME_LINES,
      columnSet: SHIPPED_COLUMN_SETS[query.columns]!,
      asOf,
      budgetId: query.budget,
      filter: query.filter,
    });
    const { year } = periodAt(books.calendar, asOf);
    const budget = budgets.get(year);
    return {
      books,
      grid,
      budgets,
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
      const { grid } = await this.#evaluator.evaluate(books, {
        lineSet: INCOME_LINES,
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
