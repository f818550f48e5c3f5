import { type RolledForward, rollForward } from '@wise-margin/core';

import { budgetBooksOf, type BudgetStore, type StoredBudget } from '../../budget-store/index.ts';
import type { Books } from '../../companies/index.ts';

/** A stored budget carried into the balance sheet. */
export async function rolledForward(books: Books, store: BudgetStore, { row, cube, rules }: StoredBudget): Promise<RolledForward> {
  return rollForward(await budgetBooksOf(books, store), { year: row.year, income: cube, rules });
}
