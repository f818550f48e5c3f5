import {
  actualScenario,
  budgetScenario,
  noScenario,
  projectionScenario,
  rollForward,
  STATISTIC,
  statisticScenario,
  type BalanceCube,
  type BudgetBooks,
  type ScenarioRef,
  type ScenarioSource,
  type ScenarioSources,
  type YearBudget,
} from '@wise-margin/core';
import { budgetBooks, type BudgetStore, type StoredBudget } from '../budgets/index.ts';
import type { Books, WorkingCube } from '../companies/books.ts';
import { notFound } from '../http/problem.ts';

/** The scenarios of a company's books, and the budget that stands for each fiscal year in them. */
export type Scenarios = {
  readonly sources: ScenarioSources;
  readonly budgets: ReadonlyMap<number, StoredBudget>;
  /** budgets that columns name and that are not there */
  readonly absent: ReadonlySet<number>;
};

const MOST_HELD = 40;

/** Composes scenarios from books and budgets, and keeps them until one of those changes. */
export class ScenarioKeeper {
  readonly #store: BudgetStore;
  readonly #held = new Map<
    string,
    { readonly books: Books; readonly working: WorkingCube; readonly from: readonly StoredBudget[]; readonly scenarios: Scenarios }
  >();

  constructor(store: BudgetStore) {
    this.#store = store;
  }

  /**
   * @param options.chosenId the budget standing for its own year; the approved one stands for every other year
   * @param options.budgetIds budgets that columns name themselves; one that is gone has no figures
   * @param options.working the actuals as the statement needs them
   * @throws ProblemError 404 when there is no such budget as the chosen one
   */
  async of(
    books: Books,
    options: { readonly chosenId?: number | undefined; readonly budgetIds?: readonly number[]; readonly working: WorkingCube },
  ): Promise<Scenarios> {
    const { chosenId, budgetIds = [], working } = options;
    const rows = await this.#store.list(books.id);
    const yearBudgets = this.#yearBudgets(books);
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
    const named = new Map<number, ScenarioSource>();
    const pinned: StoredBudget[] = [];
    for (const id of [...new Set(budgetIds)].sort((a, b) => a - b)) {
      const row = rows.find((each) => each.id === id);
      if (!row) continue;
      const stored = await this.#store.ofRow(books, row);
      pinned.push(stored);
      named.set(id, { ...budgetScenario(books, await yearBudgets([stored])), name: `FY${row.year} ${row.name}` });
    }
    const from = [...approved.values(), ...budgets.values(), ...pinned];
    const absent = new Set(budgetIds.filter((id) => !named.has(id)));
    const key = `${books.id} ${chosenId ?? ''} ${[...named.keys()].join(' ')} ${[...absent].join(' ')}`;
    const held = this.#held.get(key);
    if (
      held?.books === books &&
      held.working.cube === working.cube &&
      held.from.length === from.length &&
      held.from.every((budget, index) => budget === from[index])
    )
      return held.scenarios;
    const actual = actualScenario(books, working);
    const budget = budgetScenario(books, await yearBudgets(budgets.values()));
    // what a year is expected to end at does not hang on the draft in view
    const projection = projectionScenario(books, actual, {
      budget: chosenId === undefined ? budget : budgetScenario(books, await yearBudgets(approved.values())),
      lastPosted: working.last,
    });
    const sources = (ref: ScenarioRef): ScenarioSource => {
      if (ref === 'actual') return actual;
      if (ref === 'budget') return budget;
      if (ref === 'projection') return projection;
      if (ref.startsWith(STATISTIC)) return statisticScenario(books, ref.slice(STATISTIC.length));
      return (
        named.get(Number(ref.slice('budget:'.length))) ?? noScenario(`Budget ${ref.slice('budget:'.length)}, which is no longer there`)
      );
    };
    const scenarios = { budgets, sources, absent };
    this.#held.delete(key);
    const [oldest] = this.#held.keys();
    if (this.#held.size >= MOST_HELD && oldest !== undefined) this.#held.delete(oldest);
    this.#held.set(key, { books, working, from, scenarios });
    return scenarios;
  }

  /** Budgets as the figures of their years; their balance sheets are carried forward when first looked at. */
  #yearBudgets(books: Books): (budgets: Iterable<StoredBudget>) => Promise<ReadonlyMap<number, YearBudget>> {
    return async (budgets) => {
      const drawn = await budgetBooks(books, this.#store);
      return new Map([...budgets].map((budget) => [budget.row.year, yearBudget(drawn, budget)]));
    };
  }
}

function yearBudget(drawn: BudgetBooks, { row, cube, rules }: StoredBudget): YearBudget {
  let rolled: BalanceCube | null = null;
  return {
    cube,
    dimensions: row.dimensions,
    balances: () => (rolled ??= rollForward(drawn, { year: row.year, income: cube, rules }).cube),
  };
}
