import type { BasisPreviewDto, basisPreviewRequestSchema, BudgetDto, BudgetGridDto } from '@wise-margin/contract';
import { BudgetWorksheet, type DimensionFilter, type StatementGrid } from '@wise-margin/core';
import { gridDto, previewBasis, worksheetRowDto } from '@wise-margin/presentation';
import type { z } from 'zod';

import { budgetBooksOf, headOf, type StoredBudget } from '../../budget-store/index.ts';
import { type Books, refuseUnknownFilter } from '../../companies/index.ts';
import { refused } from '../../http/problem.ts';
import type { BudgetPlace } from '../budget-context.ts';
import type { BudgetContext } from '../budget-context.ts';
import { describeBudget, yearGrid } from '../describe.ts';

/** Shows budgets: the list, one by month, and what a basis would give. */
export class BudgetService {
  readonly #parts: BudgetContext;

  constructor(parts: BudgetContext) {
    this.#parts = parts;
  }

  async list(companyId: number): Promise<BudgetDto[]> {
    const books = await this.#parts.booksCache.of(companyId);
    return Promise.all(
      (await this.#parts.store.list(companyId)).map(async (row) => this.#describe(books, await this.#parts.store.of(books, row.id))),
    );
  }

  /** The month grid with what each account's row is made of. */
  async grid({ company: companyId, budget: budgetId }: BudgetPlace, filter: DimensionFilter): Promise<BudgetGridDto> {
    const books = await this.#parts.booksCache.of(companyId);
    refuseUnknownFilter(books, filter);
    const budget = await this.#parts.store.of(books, budgetId);
    const { row } = budget;
    const head = headOf(row);
    const budgetBooks = await budgetBooksOf(books, this.#parts.store);
    const worksheet = new BudgetWorksheet({ books: budgetBooks, head, ...budget });
    const grid = await yearGrid({ books, budget, evaluator: this.#parts.evaluator }, filter);
    const view = { key: 'budget', name: row.name, note: '', openAll: false };
    const dto = gridDto(grid, { budget: row.name, view, issues: [] });
    const accounts = new Set(dto.lines.flatMap((line) => line.account ?? []));
    return {
      budget: await this.#describe(books, budget, Object.keys(filter).length === 0 ? grid : undefined),
      filter: Object.fromEntries(Object.entries(filter).map(([name, values]) => [name, [...values]])),
      dimensions: [...row.dimensions],
      grid: dto,
      rows: books.chart.accounts.flatMap((account, position) =>
        accounts.has(account.number) ? [worksheetRowDto({ books: budgetBooks, head, worksheet }, position, filter)] : [],
      ),
      version: row.version,
    };
  }

  /** What a basis would give a row, before it is set. @throws ProblemError 422 as when it is set */
  async previewBasis(
    { company: companyId, budget: budgetId }: BudgetPlace,
    request: z.output<typeof basisPreviewRequestSchema>,
  ): Promise<BasisPreviewDto> {
    const books = await this.#parts.booksCache.of(companyId);
    refuseUnknownFilter(books, request.filter);
    const budget = await this.#parts.store.of(books, budgetId);
    const budgetBooks = await budgetBooksOf(books, this.#parts.store);
    const previewed = previewBasis({ books: budgetBooks, head: headOf(budget.row), lines: budget.lines }, request);
    if (!previewed.ok) throw refused(previewed.message, 'basis');
    return previewed.preview;
  }

  #describe(books: Books, budget: StoredBudget, whole?: StatementGrid): Promise<BudgetDto> {
    return describeBudget({ books, budget, evaluator: this.#parts.evaluator }, whole);
  }
}
