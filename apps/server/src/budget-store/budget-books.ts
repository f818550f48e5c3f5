import type { BudgetBooks, BudgetHead, YearBudget } from '@wise-margin/core';

import type { Books } from '../companies/index.ts';
import type { BudgetRow } from '../database/models.ts';
import type { BudgetStore } from './budget-store.ts';

/** A company's books with the approved budget of each year, as budgets draw on them. */
export async function budgetBooksOf(books: Books, store: BudgetStore): Promise<BudgetBooks> {
  const approved = new Map<number, YearBudget>();
  for (const row of await store.list(books.id)) {
    if (row.state !== 'approved' || approved.has(row.year)) continue;
    approved.set(row.year, { cube: (await store.ofRow(books, row)).cube, dimensions: row.dimensions });
  }
  return { ...books, exponent: books.currency.exponent, approved };
}

export const headOf = ({ year, fromYear, dimensions }: BudgetRow): BudgetHead => ({ year, fromYear, dimensions });
