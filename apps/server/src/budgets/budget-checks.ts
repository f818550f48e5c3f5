import { nonrecurringFindings, sanityFindings, type SanityFinding } from '@wise-margin/core';
import { BooksKeeper } from '../companies/books.ts';
import { openDatabase, type Database } from '../database/database.ts';
import { budgetBooks, headOf } from './budget-books.ts';
import { readNonrecurring } from './nonrecurring.ts';
import { BudgetStore } from './store.ts';

/** The books a thread reads for itself, by data folder. */
const opened = new Map<string, Promise<{ readonly database: Database; readonly keeper: BooksKeeper; readonly store: BudgetStore }>>();

async function open(directory: string) {
  const database = await openDatabase(directory);
  return { database, keeper: new BooksKeeper(database), store: new BudgetStore(database) };
}

/** The findings of a budget's checks, from books of this thread's own, which follow every posting. */
export async function budgetChecks(of: {
  readonly directory: string;
  readonly companyId: number;
  readonly budgetId: number;
}): Promise<readonly SanityFinding[]> {
  const opening = opened.get(of.directory) ?? open(of.directory);
  opened.set(of.directory, opening);
  const { database, keeper, store } = await opening;
  const books = await keeper.of(of.companyId);
  const budget = await store.of(books, of.budgetId);
  const [drawn, head] = [await budgetBooks(books, store), headOf(budget.row)];
  const year = head.fromYear ?? head.year - 1;
  const candidates = await readNonrecurring(database, books, { drawn, year, projected: true });
  const left = nonrecurringFindings({ books: drawn, lines: budget.lines }, { candidates, year });
  return [...left, ...sanityFindings({ books: drawn, head, lines: budget.lines })];
}
