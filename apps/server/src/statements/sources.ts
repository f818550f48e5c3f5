import {
  filterKey,
  isIncomeAccount,
  joinSlabs,
  joinSlices,
  lastSlot,
  minor,
  periodAt,
  shortPeriodName,
  slotCount,
  slotOfYear,
  BalanceCube,
  Slab,
  STATISTIC,
  type BlankReason,
  type PeriodIndex,
  type ScenarioRef,
  type ScenarioSource,
  type ScenarioSources,
  type Span,
} from '@wise-margin/core';
import type { BudgetStore, StoredBudget } from '../budgets/index.ts';
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
      named.set(id, { ...budgetSource(books, new Map([[row.year, stored]])), name: `FY${row.year} ${row.name}` });
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
    const actual = actualSource(books, working);
    const budget = budgetSource(books, budgets);
    // what a year is expected to end at does not hang on the draft in view
    const projection = projectionSource(books, actual, {
      budget: chosenId === undefined ? budget : budgetSource(books, approved),
      lastPosted: working.last,
    });
    const sources = (ref: ScenarioRef): ScenarioSource => {
      if (ref === 'actual') return actual;
      if (ref === 'budget') return budget;
      if (ref === 'projection') return projection;
      if (ref.startsWith(STATISTIC)) return statisticSource(books, ref.slice(STATISTIC.length));
      return named.get(Number(ref.slice('budget:'.length))) ?? noSource(ref);
    };
    const scenarios = { budgets, sources, absent };
    this.#held.delete(key);
    const [oldest] = this.#held.keys();
    if (this.#held.size >= MOST_HELD && oldest !== undefined) this.#held.delete(oldest);
    this.#held.set(key, { books, working, from, scenarios });
    return scenarios;
  }
}

function actualSource(books: Books, { cube, last }: WorkingCube): ScenarioSource {
  return {
    name: 'Actual',
    hasBalances: true,
    slab: (filter) => cube.slab(filter),
    slices: (filter, accounts, dimension) => cube.slices(filter, accounts, dimension),
    statistic: books.statistics.value,
    missing: ({ from, to }: Span): BlankReason | null => {
      if (last === null || from > last) return 'notYetPosted';
      return books.firstPosted !== null && to < books.firstPosted ? 'beforeHistory' : null;
    },
  };
}

/** The figures of a statistic: those of the ledger's months, whatever is posted in them. */
function statisticSource(books: Books, series: string): ScenarioSource {
  const empty = new Slab(0, 0);
  return {
    name: series,
    hasBalances: false,
    slab: () => empty,
    slices: () => ({ positions: new Map(), income: empty, balance: empty }),
    missing: () => null,
    statistic: books.statistics.value,
  };
}

const noStatistic = (): null => null;

/** A scenario that is not there, such as a budget that was deleted: every figure of it is blank. */
function noSource(ref: ScenarioRef): ScenarioSource {
  const empty = new Slab(0, 0);
  return {
    name: `Budget ${ref.slice('budget:'.length)}, which is no longer there`,
    hasBalances: false,
    slab: () => empty,
    slices: () => ({ positions: new Map(), income: empty, balance: empty }),
    missing: () => 'noBudget',
    statistic: noStatistic,
  };
}

function budgetSource(books: Books, budgets: ReadonlyMap<number, StoredBudget>): ScenarioSource {
  const yearsOf = ({ from, to }: Span) => {
    const first = periodAt(books.calendar, from).year;
    return Array.from({ length: periodAt(books.calendar, to).year - first + 1 }, (_, index) => first + index);
  };
  const cube = composedCube(books, [...budgets.values()]);
  return {
    name: 'Budget',
    hasBalances: false,
    slab: (filter) => cube.slab(filter),
    slices: (filter, accounts, dimension) => cube.slices(filter, accounts, dimension),
    statistic: noStatistic,
    missing: (span, filter) => {
      const needed = yearsOf(span).map((year) => budgets.get(year));
      if (needed.some((budget) => budget === undefined)) return 'noBudget';
      const kept = Object.keys(filter).every((name) => needed.every((budget) => budget!.row.dimension === name));
      return kept ? null : 'noBudgetByDimension';
    },
  };
}

/** One cube out of the budgets of several years; a single budget is read as it stands. */
function composedCube(books: Books, budgets: readonly StoredBudget[]): BalanceCube {
  if (budgets.length === 1) return budgets[0]!.cube;
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
  return composed;
}

/** Actuals through the last posted month, the budget after it. */
function projectionSource(
  books: Books,
  actual: ScenarioSource,
  options: { readonly budget: ScenarioSource; readonly lastPosted: PeriodIndex | null },
): ScenarioSource {
  const { budget, lastPosted } = options;
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
    slices: (filter, accounts, dimension) =>
      joinSlices(actual.slices(filter, accounts, dimension), budget.slices(filter, accounts, dimension), size),
    statistic: actual.statistic,
    missing: (span, filter) => {
      const begun = lastPosted === null || span.from > lastPosted ? null : actual.missing(span, filter);
      const ended = lastPosted !== null && span.to <= lastPosted;
      return begun ?? (ended ? null : budget.missing(span, filter));
    },
  };
}
