import type { PeriodIndex } from '../calendar/fiscal-calendar.ts';
import type { Span } from '../calendar/span.ts';
import type { Slab, Slices } from '../ledger/balance-cube.ts';
import type { DimensionFilter } from '../ledger/dimension.ts';
import type { BlankReason } from './cell.ts';
import type { ScenarioRef } from './column-set.ts';
import type { StatisticOver } from './line-set.ts';

/** Where the figures of a scenario come from. */
export type ScenarioSource = {
  /** in words: `Actual`, `FY2027 approved budget` */
  readonly name: string;
  readonly slab: (filter: DimensionFilter) => Slab;
  /** accounts (chart positions) together, apart by the values of a dimension */
  readonly slices: (filter: DimensionFilter, accounts: readonly number[], dimension: string) => Slices;
  /** why a span has no figures under a filter, or null when it has */
  readonly missing: (span: Span, filter: DimensionFilter) => BlankReason | null;
  /** whether balance-sheet accounts have figures too, over a span and under a filter */
  readonly hasBalances: (span: Span, filter: DimensionFilter) => boolean;
  /** where they are; asked only where there are some */
  readonly balanceSlab: (span: Span, filter: DimensionFilter) => Slab;
  /** a statistic's value in a period under a filter; null where there is none */
  readonly statistic: (series: string, filter: DimensionFilter, period: PeriodIndex) => number | null;
  /** how a statistic goes over several months: a count is summed, a level averaged; absent, the last month's */
  readonly aggregation?: (series: string) => StatisticOver;
};
/** The source of each scenario a column may name. */
export type ScenarioSources = (ref: ScenarioRef) => ScenarioSource;
