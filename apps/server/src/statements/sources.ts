import {
  filterKey,
  isIncomeAccount,
  joinSlabs,
  lastSlot,
  minor,
  periodAt,
  shortPeriodName,
  slotCount,
  slotOfYear,
  BalanceCube,
  type BlankReason,
  type DimensionFilter,
  type ScenarioSource,
  type ScenarioSources,
  type Slab,
  type Span,
} from '@wise-margin/core';
import type { BudgetStore, StoredBudget } from '../budgets/index.ts';
import type { Books } from '../companies/books.ts';
import { notFound } from '../http/problem.ts';

/** The scenarios of a company's books, and the budget that stands for each fiscal year in them. */
export type Scenarios = { readonly sources: ScenarioSources; readonly budgets: ReadonlyMap<number, StoredBudget> };

const MOST_HELD = 40;

/** Composes scenarios from books and budgets, and keeps them until one of those changes. */
export class ScenarioKeeper {
  readonly #store: BudgetStore;
  readonly #held = new Map<string, { readonly books: Books; readonly from: readonly StoredBudget[]; readonly scenarios: Scenarios }>();

  constructor(store: BudgetStore) {
    this.#store = store;
  }

  /**
   * @param chosenId the budget standing for its own year; the approved one stands for every other year
   * @throws ProblemError 404 when there is no such budget
   */
  async of(books: Books, chosenId: number | undefined): Promise<Scenarios> {
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
    const from = [...approved.values(), ...budgets.values()];
    const key = `${books.id} ${chosenId ?? ''}`;
    const held = this.#held.get(key);
    if (held?.books === books && held.from.length === from.length && held.from.every((budget, index) => budget === from[index]))
      return held.scenarios;
    const actual = actualSource(books);
    const budget = budgetSource(books, budgets);
    // what a year is expected to end at does not hang on the draft in view
    const projection = projectionSource(books, actual, chosenId === undefined ? budget : budgetSource(books, approved));
    const scenarios = { budgets, sources: { actual, budget, projection } };
    this.#held.delete(key);
    const [oldest] = this.#held.keys();
    if (this.#held.size >= MOST_HELD && oldest !== undefined) this.#held.delete(oldest);
    this.#held.set(key, { books, from, scenarios });
    return scenarios;
  }
}

function actualSource(books: Books): ScenarioSource {
  return {
    name: 'Actual',
    hasBalances: true,
    slab: (filter) => books.cube.slab(filter),
    missing: ({ from, to }: Span): BlankReason | null => {
      if (books.lastPosted === null || from > books.lastPosted) return 'notYetPosted';
      return books.firstPosted !== null && to < books.firstPosted ? 'beforeHistory' : null;
    },
  };
}

function budgetSource(books: Books, budgets: ReadonlyMap<number, StoredBudget>): ScenarioSource {
  const yearsOf = ({ from, to }: Span) => {
    const first = periodAt(books.calendar, from).year;
    return Array.from({ length: periodAt(books.calendar, to).year - first + 1 }, (_, index) => first + index);
  };
  return {
    name: 'Budget',
    hasBalances: false,
    slab: composedSlabs(books, [...budgets.values()]),
    missing: (span, filter) => {
      const needed = yearsOf(span).map((year) => budgets.get(year));
      if (needed.some((budget) => budget === undefined)) return 'noBudget';
      const kept = Object.keys(filter).every((name) => needed.every((budget) => budget!.row.dimension === name));
      return kept ? null : 'noBudgetByDimension';
    },
  };
}

/** One slab out of the budgets of several years; a single budget is read as it stands. */
function composedSlabs(books: Books, budgets: readonly StoredBudget[]): (filter: DimensionFilter) => Slab {
  if (budgets.length === 1) return (filter) => budgets[0]!.cube.slab(filter);
  const composed = new BalanceCube({ isIncome: books.chart.accounts.map(isIncomeAccount), slots: slotCount(books.calendar) });
  composed.post(
    budgets.flatMap(({ row, lines }) =>
      lines.flatMap((line) =>
        line.months.flatMap(({ amount }, month) => {
          const slot = slotOfYear(books.calendar, row.year, month + 1);
          return slot === null
            ? []
            : [{ account: line.position, slot, combination: line.dimensions, layer: 'ordinary' as const, amount: minor(amount) }];
        }),
      ),
    ),
  );
  return (filter) => composed.slab(filter);
}

/** Actuals through the last posted month, the budget after it. */
function projectionSource(books: Books, actual: ScenarioSource, budget: ScenarioSource): ScenarioSource {
  const { lastPosted } = books;
  const size = {
    accounts: books.chart.accounts.length,
    slots: slotCount(books.calendar),
    lastSlot: lastPosted === null ? -1 : lastSlot(books.calendar, lastPosted),
  };
  const held = new Map<string, Slab>();
  return {
    name: lastPosted === null ? 'Budget' : `Actual to ${shortPeriodName(books.calendar, lastPosted)}, approved budget after`,
    hasBalances: false,
    slab: (filter) => {
      const key = filterKey(filter);
      const joined = held.get(key) ?? joinSlabs(actual.slab(filter), budget.slab(filter), size);
      held.set(key, joined);
      return joined;
    },
    missing: (span, filter) => {
      const begun = lastPosted === null || span.from > lastPosted ? null : actual.missing(span, filter);
      const ended = lastPosted !== null && span.to <= lastPosted;
      return begun ?? (ended ? null : budget.missing(span, filter));
    },
  };
}
