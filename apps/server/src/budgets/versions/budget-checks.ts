import { nonrecurringFindings, sanityFindings, type SanityFinding } from '@wise-margin/core';
import { BooksKeeper } from '../../companies/index.ts';
import { type Database, openDatabase } from '../../database/database.ts';
import { BudgetStore, budgetBooks, headOf } from '../../budget-store/index.ts';
import { readNonrecurring } from '../nonrecurring/nonrecurring-candidates.ts';
import type { Task } from '../../work/task.ts';

/** The books a thread reads for itself, by data folder. */
const opened = new Map<string, Promise<{ readonly database: Database; readonly keeper: BooksKeeper; readonly store: BudgetStore }>>();

async function open(directory: string) {
  const database = await openDatabase(directory);
  return { database, keeper: new BooksKeeper(database), store: new BudgetStore(database) };
}

type CheckedBudget = { readonly directory: string; readonly companyId: number; readonly budgetId: number };

/** The findings of a budget's checks, from books of this thread's own, which follow every posting. */
export const BUDGET_CHECKS: Task<CheckedBudget, readonly SanityFinding[]> = { name: 'budgetChecks', run: budgetChecks };

async function budgetChecks(of: CheckedBudget): Promise<readonly SanityFinding[]> {
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
