import type { Span } from '../calendar/span.ts';
import type { DimensionFilter } from '../ledger/dimension.ts';
import type { Slab } from '../ledger/balance-cube.ts';
import type { BlankReason } from './cell.ts';
import type { ScenarioRef } from './column-set.ts';

/** Where the figures of a scenario come from. */
export type ScenarioSource = {
  /** in words: `Actual`, `FY2027 approved budget` */
  readonly name: string;
  readonly slab: (filter: DimensionFilter) => Slab;
  /** why a span has no figures under a filter, or null when it has */
  readonly missing: (span: Span, filter: DimensionFilter) => BlankReason | null;
  /** whether balance-sheet accounts have figures too */
  readonly hasBalances: boolean;
};
export type ScenarioSources = Readonly<Record<ScenarioRef, ScenarioSource>>;
