import type { BudgetDto } from '@wise-margin/contract';
import {
  BUDGET_GRID_COLUMNS,
  type DimensionFilter,
  INCOME_LINES,
  periodOfYear,
  PERIODS_PER_YEAR,
  type StatementGrid,
} from '@wise-margin/core';

import type { StoredBudget } from '../budget-store/index.ts';
import type { Books } from '../companies/index.ts';
import type { Evaluator } from '../evaluation/index.ts';

type Described = { readonly books: Books; readonly budget: StoredBudget; readonly evaluator: Evaluator };

/** A budget as the month grid shows it. */
export async function yearGrid({ books, budget: { row }, evaluator }: Described, filter: DimensionFilter): Promise<StatementGrid> {
  const asOf = periodOfYear(books.calendar, row.year, PERIODS_PER_YEAR)!;
  const options = { lineSet: INCOME_LINES, columnSet: BUDGET_GRID_COLUMNS, asOf, budgetId: row.id, filter };
  return (await evaluator.evaluate(books, options)).grid;
}

/** @param whole the budget's grid without a filter, when it was evaluated already */
export async function describeBudget(described: Described, whole?: StatementGrid): Promise<BudgetDto> {
  const { row, lines } = described.budget;
  const grid = whole ?? (await yearGrid(described, {}));
  const column = grid.plan.columns.findIndex(({ key }) => key === 'year.budget');
  const figure = (key: string) => {
    const cell = grid.cells[grid.plan.lineOfKey.get(key)!]![column]!;
    return cell.kind === 'amount' ? cell.value : 0;
  };
  return {
    id: row.id,
    name: row.name,
    year: row.year,
    fromYear: row.fromYear,
    state: row.state as BudgetDto['state'],
    createdAt: row.createdAt,
    actor: row.actor,
    note: row.note,
    copiedFrom: row.copiedFrom,
    dimensions: [...row.dimensions],
    lineCount: lines.length,
    revenue: figure('revenue'),
    operatingIncome: figure('operating_income'),
  };
}
