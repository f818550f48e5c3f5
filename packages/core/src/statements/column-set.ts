import type { SpanDefinition } from '../calendar/span.ts';
import type { DimensionFilter } from '../ledger/dimension.ts';
import type { RatioUnit } from './cell.ts';

/**
 * Which figures a column reads; `budget` is the one chosen for the statement, by default the approved
 * one; `budget:7` is the budget with that number; `projection` is the actuals through the last posted
 * month and the approved budget after it; `statistic:headcount` is a figure that is not money, on every line
 * under the line's own filter.
 */
export type ScenarioRef = 'actual' | 'budget' | 'projection' | `budget:${number}` | `statistic:${string}`;
/** Over a span, a balance-sheet account shows its closing balance, its net change, its opening balance, or the mean of opening and closing. */
export type BalanceMeasure = 'closing' | 'change' | 'opening' | 'average';

type ColumnBase = {
  /** unique within its block */
  readonly key: string;
  readonly heading: string;
  /** computed, not shown */
  readonly hidden?: boolean;
  /** left out while every figure of it is blank */
  readonly ifFilled?: boolean;
  /** in characters of a figure; by default what its figures need */
  readonly width?: number;
  /** of percentages and ratios; by default one */
  readonly decimals?: number;
};
/**
 * A column. Others are named by their key within the block, or as `block.column` in a block that does
 * not repeat.
 */
export type Column =
  | (ColumnBase & {
      readonly kind: 'amount';
      readonly scenario: ScenarioRef;
      readonly span: SpanDefinition;
      readonly measure?: BalanceMeasure;
      readonly filter?: DimensionFilter;
    })
  /** `compared` less `base` */
  | (ColumnBase & { readonly kind: 'difference'; readonly compared: string; readonly base: string; readonly bar?: boolean })
  | (ColumnBase & { readonly kind: 'percentDifference'; readonly compared: string; readonly base: string })
  /**
   * `of` as a share of a line: `baseLine`, the line set's percent base without one, with `ownGroup` the total of the
   * section a line is in, with `ownLine` the line itself. The base is read in `baseColumn`, or in `of` without one.
   */
  | (ColumnBase & {
      readonly kind: 'share';
      readonly of: string;
      readonly baseLine?: string;
      readonly ownGroup?: boolean;
      readonly ownLine?: boolean;
      readonly baseColumn?: string;
    })
  /** a formula over columns, line by line: `(actual - budget) / heads` */
  | (ColumnBase & { readonly kind: 'formula'; readonly expression: string; readonly result: 'amount' | RatioUnit })
  /** `of` added up over the standings of a repeat, through this one */
  | (ColumnBase & { readonly kind: 'runningTotal'; readonly of: string })
  /** what each ratio, or each line's share, is held against */
  | (ColumnBase & { readonly kind: 'benchmark' });

/** What a block stands for again and again. Stretches end at the as-of month. */
export type Repeat =
  | { readonly over: 'months'; readonly within: SpanDefinition }
  | { readonly over: 'months' | 'quarters' | 'years'; readonly last: number }
  /** parts named by a month in each, such as `2026-06`, in any order */
  | { readonly over: 'months' | 'quarters' | 'years'; readonly chosen: readonly string[] }
  /** each value of a dimension, or those listed */
  | { readonly over: 'dimension'; readonly dimension: string; readonly values?: readonly string[] };

/** Columns under one heading. `{span}` in a heading is filled in with the span in words, `{value}` with a dimension's value, `{all}` in a total with the values it is over. */
export type Block = {
  readonly key: string;
  readonly heading: string;
  /** the span the heading names */
  readonly span: SpanDefinition;
  readonly columns: readonly Column[];
  readonly hidden?: boolean;
  readonly repeat?: Repeat;
  /** after a repeat: one more block whose amounts run over the whole stretch */
  readonly total?: { readonly heading: string };
};

/** The columns of a statement, as data. */
export type ColumnSet = { readonly key: string; readonly name: string; readonly blocks: readonly Block[] };
