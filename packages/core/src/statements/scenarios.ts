import { type FiscalCalendar, lastSlot, periodAt, type PeriodIndex, slotCount } from '../calendar/fiscal-calendar.ts';
import { shortPeriodName } from '../calendar/period-words.ts';
import type { Span } from '../calendar/span.ts';
import { cashFlowOfBalances } from '../cash-flow/cash-flow-of-balances.ts';
import { CASH_FLOW } from '../cash-flow/cash-flow-part.ts';
import { type Chart, isIncomeAccount } from '../chart/account.ts';
import { BalanceCube, joinSlabs, joinSlices, Slab } from '../ledger/balance-cube.ts';
import { type DimensionFilter, filterKey, NO_FILTER } from '../ledger/dimension.ts';
import type { BlankReason } from './cell.ts';
import type { ScenarioSource } from './scenario-source.ts';

/** What scenarios are composed of, besides their figures. */
export type ScenarioBooks = {
  readonly chart: Chart;
  readonly calendar: FiscalCalendar;
  readonly firstPosted: PeriodIndex | null;
  readonly statistics: { readonly value: ScenarioSource['statistic']; readonly aggregation?: ScenarioSource['aggregation'] };
};
/** The budget that stands for a fiscal year, and the dimensions its lines are budgeted by. */
export type YearBudget = {
  readonly cube: BalanceCube;
  readonly dimensions: readonly string[];
  /** the ledger and the budgeted balance sheet after it, for the company as a whole; absent where none is planned */
  readonly balances?: () => BalanceCube;
};

/**
 * The ledger's figures.
 * @param posted its cube, the last month it holds (null while nothing is posted), and the cube of its cash flows,
 * where lines by part of the statement of cash flows read; absent where no line does
 */
export function actualScenario(
  books: ScenarioBooks,
  { cube, last, cashFlow }: { readonly cube: BalanceCube; readonly last: PeriodIndex | null; readonly cashFlow?: BalanceCube | undefined },
): ScenarioSource {
  const cubeFor = (filter: DimensionFilter): BalanceCube => {
    if (!(CASH_FLOW in filter)) return cube;
    if (!cashFlow) throw new TypeError('the statement of cash flows was not loaded');
    return cashFlow;
  };
  return {
    name: 'Actual',
    hasBalances: () => true,
    slab: (filter) => cubeFor(filter).slab(filter),
    balanceSlab: (_, filter) => cubeFor(filter).slab(filter),
    slices: (filter, accounts, dimension) => cubeFor(filter).slices(filter, accounts, dimension),
    statistic: books.statistics.value,
    missing: ({ from, to }: Span): BlankReason | null => {
      if (last === null || from > last) return 'notYetPosted';
      return books.firstPosted !== null && to < books.firstPosted ? 'beforeHistory' : null;
    },
  };
}

/** Of a scenario without balance-sheet figures. */
const noBalances: Pick<ScenarioSource, 'hasBalances' | 'balanceSlab'> = { hasBalances: () => false, balanceSlab: () => new Slab(0, 0) };
const noSlices = (): ReturnType<ScenarioSource['slices']> => ({ positions: new Map(), income: new Slab(0, 0), balance: new Slab(0, 0) });

/** The figures of a statistic: those of the ledger's months, whatever is posted in them. */
export function statisticScenario(books: ScenarioBooks, series: string): ScenarioSource {
  const empty = new Slab(0, 0);
  const { aggregation } = books.statistics;
  return {
    ...noBalances,
    name: series,
    slab: () => empty,
    slices: noSlices,
    missing: () => null,
    statistic: books.statistics.value,
    ...(aggregation ? { aggregation } : {}),
  };
}

/** A scenario that is not there, such as a budget that was deleted: every figure of it is blank. */
export function noScenario(name: string): ScenarioSource {
  const empty = new Slab(0, 0);
  return { ...noBalances, name, slab: () => empty, slices: noSlices, missing: () => 'noBudget', statistic: () => null };
}

/** The budgets of several years as one scenario; a year without one, or a dimension a budget does not have, is blank. */
export function budgetScenario(books: ScenarioBooks, budgets: ReadonlyMap<number, YearBudget>): ScenarioSource {
  const yearsOf = ({ from, to }: Span) => {
    const first = periodAt(books.calendar, from).year;
    return Array.from({ length: periodAt(books.calendar, to).year - first + 1 }, (_, index) => first + index);
  };
  const cube = oneCube(books, [...budgets.values()]);
  // balances are planned year by year, each from a ledger month of its own: a span over two years has none
  const plannedIn = (span: Span) => {
    const years = yearsOf(span);
    return years.length === 1 ? budgets.get(years[0]!)?.balances : undefined;
  };
  const cashFlows = new Map<BalanceCube, BalanceCube>();
  const cashFlowOf = (planned: BalanceCube): BalanceCube => {
    const made = cashFlows.get(planned) ?? cashFlowOfBalances(books.chart, planned.slab(NO_FILTER), slotCount(books.calendar));
    cashFlows.set(planned, made);
    return made;
  };
  const dimensionsOf = (filter: DimensionFilter) => Object.keys(filter).filter((name) => name !== CASH_FLOW);
  return {
    name: 'Budget',
    hasBalances: (span, filter) => dimensionsOf(filter).length === 0 && plannedIn(span) !== undefined,
    balanceSlab: (span, filter) => {
      const planned = plannedIn(span)!();
      return CASH_FLOW in filter ? cashFlowOf(planned).slab(filter) : planned.slab(NO_FILTER);
    },
    slab: (filter) => cube.slab(filter),
    slices: (filter, accounts, dimension) => cube.slices(filter, accounts, dimension),
    statistic: () => null,
    missing: (span, filter) => {
      const needed = yearsOf(span).map((year) => budgets.get(year));
      if (needed.some((budget) => budget === undefined)) return 'noBudget';
      const hasDimensions = dimensionsOf(filter).every((name) => needed.every((budget) => budget!.dimensions.includes(name)));
      return hasDimensions ? null : 'noBudgetByDimension';
    },
  };
}

/** The cubes of several years' budgets as one; a single one is read as it stands. */
function oneCube(books: ScenarioBooks, budgets: readonly YearBudget[]): BalanceCube {
  const cubes = new Set(budgets.map(({ cube }) => cube));
  const [only] = cubes;
  if (only && cubes.size === 1) return only;
  const composed = new BalanceCube({ isIncome: books.chart.accounts.map(isIncomeAccount), slots: slotCount(books.calendar) });
  for (const { facts } of cubes) composed.post(facts);
  return composed;
}

/** Actuals through a month, a budget after it. @param options.through null takes every month from the budget */
export function projectionScenario(
  books: ScenarioBooks,
  actual: ScenarioSource,
  options: { readonly budget: ScenarioSource; readonly through: PeriodIndex | null },
): ScenarioSource {
  const { budget, through } = options;
  const size = {
    accounts: books.chart.accounts.length,
    slots: slotCount(books.calendar),
    lastSlot: through === null ? -1 : lastSlot(books.calendar, through),
  };
  const held = new Map<string, Slab>();
  const slab = (filter: DimensionFilter): Slab => {
    const key = filterKey(filter);
    const joined = held.get(key) ?? joinSlabs(actual.slab(filter), budget.slab(filter), size);
    held.set(key, joined);
    return joined;
  };
  return {
    name: through === null ? 'Budget' : `Actual to ${shortPeriodName(books.calendar, through)}, approved budget after`,
    ...noBalances,
    slab,
    slices: (filter, accounts, dimension) =>
      joinSlices(actual.slices(filter, accounts, dimension), budget.slices(filter, accounts, dimension), size),
    statistic: actual.statistic,
    missing: (span, filter) => {
      const begun = through === null || span.from > through ? null : actual.missing(span, filter);
      const ended = through !== null && span.to <= through;
      return begun ?? (ended ? null : budget.missing(span, filter));
    },
  };
}
