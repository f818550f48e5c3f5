import {
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

/** The budget that stands for each fiscal year: the one chosen for its own year, else the approved one. */
export async function budgetsByYear(books: Books, store: BudgetStore, chosenId: number | undefined): Promise<Map<number, StoredBudget>> {
  const byYear = new Map<number, StoredBudget>();
  for (const row of await store.list(books.id)) {
    if (row.state === 'approved' && !byYear.has(row.year)) byYear.set(row.year, await store.of(books, row.id));
  }
  if (chosenId !== undefined) {
    const chosen = await store.of(books, chosenId);
    byYear.set(chosen.row.year, chosen);
  }
  return byYear;
}

/** Actuals from the books, and the budget composed of one budget a year. */
export async function scenarioSources(books: Books, store: BudgetStore, chosenId: number | undefined): Promise<ScenarioSources> {
  const budgets = await budgetsByYear(books, store, chosenId);
  const actual = actualSource(books);
  // what a year is expected to end at does not hang on the draft in view
  const approved = chosenId === undefined ? budgets : await budgetsByYear(books, store, undefined);
  return { actual, budget: budgetSource(books, budgets), projection: projectionSource(books, actual, budgetSource(books, approved)) };
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
  return {
    name: lastPosted === null ? 'Budget' : `Actual to ${shortPeriodName(books.calendar, lastPosted)}, approved budget after`,
    hasBalances: false,
    slab: (filter) => joinSlabs(actual.slab(filter), budget.slab(filter), size),
    missing: (span, filter) => {
      const begun = lastPosted === null || span.from > lastPosted ? null : actual.missing(span, filter);
      const ended = lastPosted !== null && span.to <= lastPosted;
      return begun ?? (ended ? null : budget.missing(span, filter));
    },
  };
}
