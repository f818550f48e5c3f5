import {
  actualThrough,
  CASH_FLOW,
  type ColumnSet,
  type DimensionFilter,
  evaluate,
  type LineSet,
  NO_ACTUALS,
  type PeriodIndex,
  shownThrough,
  type StatementGrid,
  type StatementIssue,
  type StatementPlan,
} from '@wise-margin/core';

import type { BudgetStore, StoredBudget } from '../budget-store/index.ts';
import { type Books, type BooksCache, PARTY, SOURCE } from '../companies/index.ts';
import type { BenchmarkStore } from './benchmark-store.ts';
import { PlanCache } from './plan-cache.ts';
import { ScenarioCache, type Scenarios } from './scenario-cache.ts';

export type Evaluation = {
  readonly grid: StatementGrid;
  /** faults of lines and columns; what they touch shows no figure */
  readonly issues: readonly StatementIssue[];
  /** the budget that stands for each fiscal year */
  readonly budgets: ReadonlyMap<number, StoredBudget>;
  /** the budget whose figures a scenario shows in a fiscal year; null for none */
  readonly standing: Scenarios['standing'];
  /** the last month that actual figures are shown of; null while nothing is posted */
  readonly lastShown: PeriodIndex | null;
};
export type StatementRequest = {
  readonly lineSet: LineSet;
  readonly columnSet: ColumnSet;
  readonly asOf: PeriodIndex;
  readonly budgetId?: number | undefined;
  readonly filter: DimensionFilter;
  /** chart positions to keep to; null keeps all */
  readonly onlyAccounts?: ReadonlySet<number> | null;
  /** draft entries included too */
  readonly drafts?: boolean;
  /** a dimension that figures will be laid out by */
  readonly dimension?: string | undefined;
};

/** Plans and evaluates statements over the books, keeping what does not change between two of them. */
export class Evaluator {
  readonly #booksCache: BooksCache;
  readonly #benchmarks: BenchmarkStore;
  readonly #plans = new PlanCache();
  readonly #scenarios: ScenarioCache;

  constructor(booksCache: BooksCache, store: BudgetStore, benchmarks: BenchmarkStore) {
    this.#booksCache = booksCache;
    this.#benchmarks = benchmarks;
    this.#scenarios = new ScenarioCache(store);
  }

  /** @throws ProblemError 404 for a chosen budget that is not there */
  async evaluate(books: Books, request: StatementRequest): Promise<Evaluation> {
    const through = actualThrough(books, request.asOf);
    const asked = { ...request, benchmarks: await this.#benchmarks.of(books.id), through: through ?? NO_ACTUALS };
    const posted = shownThrough(books, request.asOf);
    let { plan, issues } = this.#plans.plan(books, { ...asked, last: posted });
    const actuals = await this.#booksCache.actuals(books, {
      party: request.dimension === PARTY || namesDimension(plan, request.filter, PARTY),
      source: request.dimension === SOURCE || namesDimension(plan, request.filter, SOURCE),
      cashFlow: namesDimension(plan, request.filter, CASH_FLOW),
      drafts: request.drafts ?? false,
    });
    // with drafts counted, a month after the last posted one may have amounts
    const last = shownThrough({ lastActual: books.lastActual, lastPosted: actuals.last }, request.asOf);
    if (last !== posted) ({ plan, issues } = this.#plans.plan(books, { ...asked, last }));
    const { sources, budgets, standing, absent } = await this.#scenarios.of(books, {
      chosenId: request.budgetId,
      budgetIds: budgetsNamed(plan),
      actuals,
      last,
      through,
    });
    return {
      grid: evaluate(plan, sources, request.filter),
      issues: [...issues, ...absentBudgets(plan, absent)],
      budgets,
      standing,
      lastShown: last,
    };
  }
}

/** One issue for each budget that is gone, at the first column that names it. */
function absentBudgets(plan: StatementPlan, absent: ReadonlySet<number>): StatementIssue[] {
  return [...absent].map((id) => {
    const [block = '', column = ''] = plan.columns
      .filter((each) => each.kind === 'amount' && each.scenario === `budget:${id}`)
      .slice(0, 1)
      .flatMap(({ key }) => [key.slice(0, key.lastIndexOf('.')), key.slice(key.lastIndexOf('.') + 1)]);
    return { of: 'column', block, column, code: 'unknownBudget', token: String(id) };
  });
}

function budgetsNamed(plan: StatementPlan): number[] {
  return plan.columns.flatMap((column) =>
    column.kind === 'amount' && column.scenario.startsWith('budget:') ? [Number(column.scenario.slice('budget:'.length))] : [],
  );
}

function namesDimension(plan: StatementPlan, filter: DimensionFilter, name: string): boolean {
  return (
    name in filter ||
    plan.columns.some((column) => column.kind === 'amount' && name in column.filter) ||
    plan.lines.some((line) => name in line.filter || (line.source.kind === 'slice' && line.source.dimension === name))
  );
}
