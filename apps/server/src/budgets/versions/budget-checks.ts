import { type CheckFinding, checkFindings, nonrecurringFindings } from '@wise-margin/core';

import { budgetBooksOf, BudgetStore, headOf } from '../../budget-store/index.ts';
import { BooksCache } from '../../companies/index.ts';
import { type Database, openDatabase } from '../../database/database.ts';
import { readNonrecurring } from '../nonrecurring/nonrecurring-candidates.ts';

/** The books a thread reads for itself, by data folder. */
const opened = new Map<string, Promise<{ readonly database: Database; readonly booksCache: BooksCache; readonly store: BudgetStore }>>();

async function open(directory: string) {
  const database = await openDatabase(directory);
  return { database, booksCache: new BooksCache(database), store: new BudgetStore(database) };
}

type CheckedBudget = { readonly directory: string; readonly companyId: number; readonly budgetId: number };

/** The findings of a budget's checks, from books of this thread's own, which follow every posting. */
export async function budgetChecks(of: CheckedBudget): Promise<readonly CheckFinding[]> {
  const opening = opened.get(of.directory) ?? open(of.directory);
  opened.set(of.directory, opening);
  const { database, booksCache, store } = await opening;
  const books = await booksCache.of(of.companyId);
  const budget = await store.of(books, of.budgetId);
  const [budgetBooks, head] = [await budgetBooksOf(books, store), headOf(budget.row)];
  const year = head.fromYear ?? head.year - 1;
  const candidates = await readNonrecurring(database, books, { budgetBooks, year, projected: true });
  const left = nonrecurringFindings({ books: budgetBooks, lines: budget.lines }, { candidates, year });
  return [...left, ...checkFindings({ books: budgetBooks, head, lines: budget.lines })];
}
