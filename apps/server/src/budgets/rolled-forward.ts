import { rollForward, type RolledForward } from '@wise-margin/core';
import type { Books } from '../companies/books.ts';
import { budgetBooks } from './budget-books.ts';
import type { BudgetStore, StoredBudget } from './store.ts';

/** A stored budget carried into the balance sheet. */
export async function rolledForward(books: Books, store: BudgetStore, { row, cube, rules }: StoredBudget): Promise<RolledForward> {
  return rollForward(await budgetBooks(books, store), { year: row.year, income: cube, rules });
}
