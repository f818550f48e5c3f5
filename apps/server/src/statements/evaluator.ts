import { evaluate, type ColumnSet, type DimensionFilter, type LineSet, type PeriodIndex, type StatementGrid } from '@wise-margin/core';
import type { BudgetStore, StoredBudget } from '../budgets/index.ts';
import type { Books } from '../companies/books.ts';
import { ProblemError } from '../http/problem.ts';
import { PlanKeeper } from './plan-keeper.ts';
import { ScenarioKeeper } from './sources.ts';

export type Evaluation = {
  readonly grid: StatementGrid;
  /** the budget that stands for each fiscal year */
  readonly budgets: ReadonlyMap<number, StoredBudget>;
};

/** Plans and evaluates statements over the books, keeping what does not change between two of them. */
export class Evaluator {
  readonly #plans = new PlanKeeper();
  readonly #scenarios: ScenarioKeeper;

  constructor(store: BudgetStore) {
    this.#scenarios = new ScenarioKeeper(store);
  }

  /** @throws ProblemError 422 with every fault of a line or column set, 404 for a budget that is not there */
  async evaluate(
    books: Books,
    options: {
      readonly lineSet: LineSet;
      readonly columnSet: ColumnSet;
      readonly asOf: PeriodIndex;
      readonly budgetId?: number | undefined;
      readonly filter: DimensionFilter;
    },
  ): Promise<Evaluation> {
    const planned = this.#plans.plan(books, options);
    if (!planned.ok) {
      const told = planned.issues.map((issue) => ({
        path: issue.of === 'line' ? issue.line : `${issue.block}.${issue.column}`,
        message: `${issue.code}: ${issue.token}`,
      }));
      throw new ProblemError(
        422,
        'The statement cannot be laid out',
        told.map(({ path, message }) => `${path}: ${message}`).join('; '),
        told,
      );
    }
    const { sources, budgets } = await this.#scenarios.of(books, options.budgetId);
    return { grid: evaluate(planned.plan, sources, options.filter), budgets };
  }
}
