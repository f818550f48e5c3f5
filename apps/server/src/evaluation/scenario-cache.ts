import {
  actualScenario,
  type BudgetBooks,
  budgetScenario,
  noScenario,
  type PeriodIndex,
  projectionScenario,
  type RolledForward,
  rollForward,
  type ScenarioRef,
  type ScenarioSource,
  type ScenarioSources,
  STATISTIC,
  statisticScenario,
  type YearBudget,
} from '@wise-margin/core';

import { budgetBooksOf, type BudgetStore, type StoredBudget } from '../budget-store/index.ts';
import type { Actuals, Books } from '../companies/index.ts';
import { notFound } from '../http/problem.ts';

/** A budget that stands in a scenario for its year, with its balance sheet. */
export type ShownBudget = { readonly budget: StoredBudget; readonly rolled: () => RolledForward };
/** The scenarios of a company's books, and the budgets that stand in them. */
export type Scenarios = {
  readonly sources: ScenarioSources;
  /** by fiscal year, where a column says budget */
  readonly budgets: ReadonlyMap<number, StoredBudget>;
  /** the budget whose figures a scenario shows in a fiscal year; null for none */
  readonly standing: (ref: ScenarioRef, year: number) => ShownBudget | null;
  /** budgets that columns name and that are not there */
  readonly absent: ReadonlySet<number>;
};

const MOST_HELD = 40;

/** Composes scenarios from books and budgets, and keeps them until one of those changes. */
export class ScenarioCache {
  readonly #store: BudgetStore;
  readonly #held = new Map<
    string,
    { readonly books: Books; readonly actuals: Actuals; readonly from: readonly StoredBudget[]; readonly scenarios: Scenarios }
  >();

  constructor(store: BudgetStore) {
    this.#store = store;
  }

  /**
   * @param options.chosenId the budget standing for its own year; the approved one stands for every other year
   * @param options.budgetIds budgets that columns name themselves; one that is gone has no figures
   * @param options.actuals the actuals as the statement needs them
   * @param options.last the last month of them that is shown
   * @param options.through the last month that a projection takes from them; null for none
   * @throws ProblemError 404 when there is no such budget as the chosen one
   */
  async of(
    books: Books,
    options: {
      readonly chosenId?: number | undefined;
      readonly budgetIds?: readonly number[];
      readonly actuals: Actuals;
      readonly last: PeriodIndex | null;
      readonly through: PeriodIndex | null;
    },
  ): Promise<Scenarios> {
    const { chosenId, budgetIds = [], actuals, last, through } = options;
    const rows = await this.#store.list(books.id);
    const approved = new Map<number, StoredBudget>();
    for (const row of rows) {
      if (row.state === 'approved' && !approved.has(row.year)) approved.set(row.year, await this.#store.ofRow(books, row));
    }
    const budgets = new Map(approved);
    if (chosenId !== undefined) {
      const row = rows.find(({ id }) => id === chosenId);
      if (!row) throw notFound(`budget ${chosenId}`);
      budgets.set(row.year, await this.#store.ofRow(books, row));
    }
    const wanted = new Set(budgetIds);
    const pinned = await Promise.all(rows.filter(({ id }) => wanted.has(id)).map((row) => this.#store.ofRow(books, row)));
    const from = [...approved.values(), ...budgets.values(), ...pinned];
    const absent = new Set(budgetIds.filter((id) => !rows.some((row) => row.id === id)));
    const key = `${books.id} ${chosenId ?? ''} ${pinned.map(({ row }) => row.id).join(' ')} ${[...absent].join(' ')} ${last} ${through}`;
    const held = this.#held.get(key);
    if (
      held?.books === books &&
      held.actuals.cube === actuals.cube &&
      (actuals.cashFlow === undefined || held.actuals.cashFlow === actuals.cashFlow) &&
      held.from.length === from.length &&
      held.from.every((budget, index) => budget === from[index])
    )
      return held.scenarios;
    const budgetBooks = await budgetBooksOf(books, this.#store);
    const carried = new Map(from.map((budget) => [budget.row.id, carriedForward(budgetBooks, budget)]));
    const scenarioOf = (standing: Iterable<StoredBudget>): ScenarioSource =>
      budgetScenario(
        books,
        new Map(
          [...standing].map(({ row, cube }): [number, YearBudget] => [
            row.year,
            { cube, dimensions: row.dimensions, balances: () => carried.get(row.id)!.rolled().cube },
          ]),
        ),
      );
    const named = new Map(
      pinned.map((stored) => [stored.row.id, { ...scenarioOf([stored]), name: `FY${stored.row.year} ${stored.row.name}` }]),
    );
    const actual = actualScenario(books, { ...actuals, last, cashFlow: actuals.cashFlow?.cube });
    const budget = scenarioOf(budgets.values());
    // what a year is expected to end at does not hang on the draft in view
    const projection = projectionScenario(books, actual, {
      budget: chosenId === undefined ? budget : scenarioOf(approved.values()),
      through,
    });
    const sources = (ref: ScenarioRef): ScenarioSource => {
      if (ref === 'actual') return actual;
      if (ref === 'budget') return budget;
      if (ref === 'projection') return projection;
      if (ref.startsWith(STATISTIC)) return statisticScenario(books, ref.slice(STATISTIC.length));
      return named.get(idIn(ref)) ?? noScenario(`Budget ${idIn(ref)}, which is no longer there`);
    };
    const standing = (ref: ScenarioRef, year: number): ShownBudget | null => {
      const stored =
        ref === 'budget'
          ? budgets.get(year)
          : ref === 'projection'
            ? approved.get(year)
            : pinned.find(({ row }) => `budget:${row.id}` === ref && row.year === year);
      return stored ? carried.get(stored.row.id)! : null;
    };
    const scenarios = { budgets, sources, standing, absent };
    this.#held.delete(key);
    const [oldest] = this.#held.keys();
    if (this.#held.size >= MOST_HELD && oldest !== undefined) this.#held.delete(oldest);
    this.#held.set(key, { books, actuals, from, scenarios });
    return scenarios;
  }
}

const idIn = (ref: ScenarioRef): number => Number(ref.slice('budget:'.length));

/** A budget whose balance sheet is carried forward when it is first looked at. */
function carriedForward(budgetBooks: BudgetBooks, budget: StoredBudget): ShownBudget {
  const { row, cube, rules } = budget;
  let rolled: RolledForward | null = null;
  return { budget, rolled: () => (rolled ??= rollForward(budgetBooks, { year: row.year, income: cube, rules })) };
}
