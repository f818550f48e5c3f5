import type { BudgetStore } from '../budget-store/index.ts';
import type { BooksCache } from '../companies/index.ts';
import type { Database } from '../database/database.ts';
import type { Evaluator } from '../evaluation/index.ts';
import type { WorkPool } from '../work/work-pool.ts';
import type { NonrecurringService } from './nonrecurring/nonrecurring-service.ts';

/** What the services of budgets work with. */
export type BudgetContext = {
  readonly database: Database;
  readonly booksCache: BooksCache;
  readonly store: BudgetStore;
  readonly evaluator: Evaluator;
  readonly work: WorkPool;
  readonly nonrecurring: NonrecurringService;
};

/** A budget of a company, by their numbers. */
export type BudgetPlace = { readonly company: number; readonly budget: number };
