import type { PeriodIndex } from '../calendar/fiscal-calendar.ts';
import type { BalanceCube } from '../ledger/balance-cube.ts';
import type { DimensionCombination } from '../ledger/dimension.ts';
import type { ScenarioBooks, YearBudget } from '../statements/scenarios.ts';
import type { BudgetLine } from './budget-line.ts';

/** Amounts marked as not recurring, which bases leave out of history. */
export type Nonrecurring = {
  /** parts of months: the amounts of single entries, at their account, slot and combination */
  readonly entries: BalanceCube;
  /** whole months of an account, as `account position:slot` */
  readonly months: ReadonlySet<string>;
};

/** What budgets draw on. The server's books and a browser's copy of them are both one. */
export type BudgetBooks = ScenarioBooks & {
  /** actuals */
  readonly cube: BalanceCube;
  /** the last month of actuals; what is posted after it is not history yet */
  readonly lastActual: PeriodIndex | null;
  readonly nonrecurring: Nonrecurring;
  /** the approved budget of each fiscal year */
  readonly approved: ReadonlyMap<number, YearBudget>;
  /** decimals of the currency */
  readonly exponent: number;
};

/** What a budget is, besides its lines. */
export type BudgetHead = {
  readonly year: number;
  /** the year whose shape spreads follow, when it was made from one */
  readonly fromYear: number | null;
  /** the dimensions its lines are budgeted by */
  readonly dimensions: readonly string[];
};

/** A budget line in its place. */
export type PlacedLine = BudgetLine & {
  /** below zero until it is stored */
  readonly id: number;
  /** of its account in the chart */
  readonly position: number;
  /** equal for equal dimensions */
  readonly slice: string;
};

/** A text equal for equal combinations, whatever their order. */
export const sliceKey = (dimensions: DimensionCombination): string =>
  JSON.stringify(
    Object.entries(dimensions)
      .filter(([, value]) => value !== '')
      .sort(([a], [b]) => (a < b ? -1 : 1)),
  );
