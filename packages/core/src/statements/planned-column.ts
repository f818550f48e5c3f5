import type { ResolvedSpan } from '../calendar/span.ts';
import type { DimensionFilter } from '../ledger/dimension.ts';
import type { RatioUnit } from './cell.ts';
import type { BalanceMeasure, ScenarioRef } from './column-set.ts';
import type { Expression } from './expression.ts';

/** What a column's figures are made of; positions are those of the plan's columns. */
export type ColumnWork =
  | {
      readonly kind: 'amount';
      readonly scenario: ScenarioRef;
      readonly resolved: ResolvedSpan;
      /** of months before those the column stands for: a prior year, a prior month, a base year */
      readonly isPriorPeriod: boolean;
      readonly isPinned: boolean;
      readonly measure: BalanceMeasure;
      readonly filter: DimensionFilter;
    }
  | {
      readonly kind: 'difference' | 'percentDifference';
      readonly compared: number;
      readonly base: number;
      readonly bar: boolean;
      /** what lines that add up over months compare, where the columns cover different months; null where they share none */
      readonly flows?: { readonly compared: number; readonly base: number } | null;
    }
  | {
      readonly kind: 'share';
      readonly of: number;
      readonly baseLine: string | null;
      readonly ownGroup: boolean;
      readonly ownLine: boolean;
      /** the column the base is read in; `of` where no other is named */
      readonly baseColumn: number;
    }
  | {
      readonly kind: 'formula';
      readonly expression: Expression;
      readonly result: 'amount' | RatioUnit;
      readonly reads: ReadonlyMap<string, number>;
    }
  | { readonly kind: 'runningTotal'; readonly columns: readonly number[] }
  | { readonly kind: 'benchmark' }
  /** a column that could not be laid out; its issue says why */
  | { readonly kind: 'faulty' };
/** A column ready to be computed. */
export type PlannedColumn = {
  readonly index: number;
  /** block key, the part for repeated blocks, and the column's key: `months.2026-10.actual` */
  readonly key: string;
  readonly block: number;
  readonly heading: string;
  readonly hidden: boolean;
  readonly ifFilled: boolean;
  readonly width: number | null;
  readonly decimals: number | null;
} & ColumnWork;
export type AmountColumn = PlannedColumn & { readonly kind: 'amount' };
export type PlannedBlock = { readonly key: string; readonly heading: string; readonly isTotal: boolean };

/** Positions of the columns a derived column is made from; none for amounts. */
export function columnsRead(column: PlannedColumn): readonly number[] {
  switch (column.kind) {
    case 'difference':
    case 'percentDifference':
      return [column.compared, column.base, ...(column.flows ? [column.flows.compared, column.flows.base] : [])];
    case 'share':
      return [column.of, column.baseColumn];
    case 'formula':
      return [...column.reads.values()];
    case 'runningTotal':
      return column.columns;
    case 'amount':
    case 'benchmark':
    case 'faulty':
      return [];
  }
}
