import type { SpanDefinition } from '../calendar/span.ts';
import type { DimensionFilter } from '../ledger/dimension.ts';

/**
 * Which figures a column reads; `budget` is the one chosen for the statement, by default the approved
 * one; `projection` is the actuals through the last posted month and the approved budget after it.
 */
export type ScenarioRef = 'actual' | 'budget' | 'projection';
/** Over a span, a balance-sheet account shows its closing balance, its net change, its opening balance, or the mean of opening and closing. */
export type BalanceMeasure = 'closing' | 'change' | 'opening' | 'average';

type ColumnBase = {
  /** unique within its block */
  readonly key: string;
  readonly heading: string;
  readonly hidden?: boolean;
};
export type Column =
  | (ColumnBase & {
      readonly kind: 'amount';
      readonly scenario: ScenarioRef;
      readonly span: SpanDefinition;
      readonly measure?: BalanceMeasure;
      readonly filter?: DimensionFilter;
    })
  /** `compared` less `base`, two columns of the block */
  | (ColumnBase & { readonly kind: 'difference'; readonly compared: string; readonly base: string; readonly bar?: boolean })
  | (ColumnBase & { readonly kind: 'percentDifference'; readonly compared: string; readonly base: string })
  /** `of` as a share of the line set's percent base in the same column */
  | (ColumnBase & { readonly kind: 'share'; readonly of: string; readonly baseLine?: string });

/** Columns under one heading. `{span}` in a heading is filled in with the block's span in words. */
export type Block = {
  readonly key: string;
  readonly heading: string;
  /** the span the heading names */
  readonly span: SpanDefinition;
  readonly columns: readonly Column[];
  /** stands once for each month of a stretch; amounts take the span of that month */
  readonly repeat?: { readonly over: 'months'; readonly within: SpanDefinition };
  /** after a repeat: one more block whose amounts run over the whole stretch */
  readonly total?: { readonly heading: string };
};

/** The columns of a statement, as data. */
export type ColumnSet = { readonly key: string; readonly name: string; readonly blocks: readonly Block[] };
