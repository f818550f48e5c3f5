import type { PeriodIndex } from '../calendar/fiscal-calendar.ts';
import type { Span } from '../calendar/span.ts';
import { CASH_FLOW } from '../cash-flow/cash-flow-part.ts';
import type { BalanceCube } from '../ledger/balance-cube.ts';
import type { DimensionFilter } from '../ledger/dimension.ts';
import { actualThrough } from '../ledger/last-actual.ts';
import type { BlankReason } from '../statements/cell.ts';
import type { ScenarioSource, ScenarioSources } from '../statements/scenario-source.ts';
import {
  actualScenario,
  budgetScenario,
  noScenario,
  projectionScenario,
  type ScenarioBooks,
  statisticScenario,
} from '../statements/scenarios.ts';
import { STATISTIC } from '../statements/statistic-figures.ts';
import { COMPANY } from './combined-layout.ts';

/** The months a company has figures of, in the combined calendar. */
export type MemberMonths = {
  readonly name: string;
  readonly first: PeriodIndex | null;
  /** the last month of actuals */
  readonly last: PeriodIndex | null;
  /** months that a budget stands for, and the dimensions every one of its budgets is by */
  readonly budgeted: ReadonlySet<number>;
  readonly budgetDimensions: readonly string[];
};

/** The last month that every company with postings has actuals of; null while none has. */
export function commonLast(members: readonly Pick<MemberMonths, 'last'>[]): PeriodIndex | null {
  const posted = members.map(({ last }) => last).filter((last) => last !== null);
  return posted.length === 0 ? null : (Math.min(...posted) as PeriodIndex);
}

/**
 * The scenarios of combined books. Figures of several companies stand only for months that all of them have: while one
 * is posted further than another, later months of both together are not posted yet; a month that one has no budget for
 * has no combined budget.
 */
export function combinedSources(
  books: ScenarioBooks,
  figures: {
    readonly ledger: BalanceCube;
    readonly cashFlow?: BalanceCube | undefined;
    readonly budget: BalanceCube;
    readonly members: readonly MemberMonths[];
    /** the month figures are looked at from */
    readonly asOf: PeriodIndex;
  },
): ScenarioSources {
  const { members, ledger, cashFlow } = figures;
  const asked = (filter: DimensionFilter): readonly MemberMonths[] => {
    const named = members.filter(({ name }) => filter[COMPANY]?.includes(name));
    return named.length === 0 ? members : named;
  };
  const actual: ScenarioSource = {
    ...actualScenario(books, { cube: ledger, last: commonLast(members), cashFlow }),
    missing: ({ from, to }: Span, filter): BlankReason | null => {
      const posted = asked(filter).filter(({ last }) => last !== null);
      const common = commonLast(posted);
      if (common === null || from > common) return 'notYetPosted';
      if (to > common && posted.some(({ last }) => last! > common)) return 'notYetPosted';
      return posted.every(({ first }) => first !== null && to < first) ? 'beforeHistory' : null;
    },
  };
  const none = budgetScenario(books, new Map());
  const budget: ScenarioSource = {
    ...none,
    slab: (filter) => figures.budget.slab(filter),
    slices: (filter, accounts, dimension) => figures.budget.slices(filter, accounts, dimension),
    missing: ({ from, to }, filter): BlankReason | null => {
      const needed = asked(filter);
      for (let month: number = from; month <= to; month += 1) if (!needed.every(({ budgeted }) => budgeted.has(month))) return 'noBudget';
      const further = Object.keys(filter).filter((name) => name !== COMPANY && name !== CASH_FLOW);
      return further.every((name) => needed.every(({ budgetDimensions }) => budgetDimensions.includes(name)))
        ? null
        : 'noBudgetByDimension';
    },
  };
  const projection = projectionScenario(books, actual, {
    budget,
    through: actualThrough({ firstPosted: books.firstPosted, lastActual: commonLast(members) }, figures.asOf),
  });
  return (ref) => {
    if (ref === 'actual') return actual;
    if (ref === 'budget') return budget;
    if (ref === 'projection') return projection;
    if (ref.startsWith(STATISTIC)) return statisticScenario(books, ref.slice(STATISTIC.length));
    return noScenario('A budget of one company');
  };
}
