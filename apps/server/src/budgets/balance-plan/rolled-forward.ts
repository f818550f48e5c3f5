import { rollForward, type RolledForward } from '@wise-margin/core';
import type { Books } from '../../companies/index.ts';
import { type BudgetStore, type StoredBudget, budgetBooksOf } from '../../budget-store/index.ts';

/** A stored budget carried into the balance sheet. */
export async function rolledForward(books: Books, store: BudgetStore, { row, cube, rules }: StoredBudget): Promise<RolledForward> {
  return rollForward(await budgetBooksOf(books, store), { year: row.year, income: cube, rules });
}
