import type { NaturalSign, Polarity } from '../chart/account-class.ts';
import type { AccountSelection } from '../chart/selection.ts';
import type { DimensionFilter } from '../ledger/dimension.ts';
import type { RatioUnit } from './cell.ts';
import type { BalanceMeasure } from './column-set.ts';

/** The order of a line's parts; `amount` is by size in the first amount column, largest first. */
export type PartOrder = 'number' | 'name' | 'amount';

export type RuleWeight = 'single' | 'double';
/** What is ruled at a line's amounts: above them, below them, or both. */
export type LineRule = { readonly above?: RuleWeight; readonly below?: RuleWeight };
/** As subtotals have it by convention: a single rule above. */
export const SUBTOTAL_RULE: LineRule = { above: 'single' };
/** As the last total of a statement has it by convention: a single rule above, a double rule below. */
export const TOTAL_RULE: LineRule = { above: 'single', below: 'double' };

type LineBase = {
  /** stable name in formulas, addresses and exports; unique in the set */
  readonly key: string;
  readonly name: string;
  readonly polarity?: Polarity;
  readonly emphasis?: 'bold' | 'italic';
  readonly rule?: LineRule;
  /** computed, not shown */
  readonly hidden?: boolean;
  /** key of the line that shares of this one are taken of, in place of the column's base */
  readonly percentOf?: string;
  /** in account form, the second side begins with this line */
  readonly startsSide?: boolean;
};
type Selecting = LineBase & {
  readonly selection: AccountSelection;
  /** the side on which the line shows positive; absent, that of its accounts */
  readonly sign?: NaturalSign;
  /** keeps lines of the ledger with these values, on top of the column's and the statement's filter */
  readonly filter?: DimensionFilter;
  /** what balance-sheet accounts show on this line whatever the column says */
  readonly measure?: BalanceMeasure;
  /** of balances that the year end closes into retained earnings, such as dividends: this year's movement, or what earlier years left */
  readonly yearPart?: YearPart;
  readonly order?: PartOrder;
  /** numbers beside the accounts it opens to; shown unless false */
  readonly accountNumbers?: boolean;
};

/** One row of a statement. Sections nest; everything else is a leaf. */
export type Line =
  | (LineBase & { readonly kind: 'section'; readonly lines: readonly Line[] })
  /** selected accounts as one line in one sign, openable to them */
  | (Selecting & { readonly kind: 'accounts' })
  /** one `accounts` line for each group among the selected accounts, in order of account number; named by the group, or by the line's name where it holds `{group}` */
  | (Selecting & { readonly kind: 'groups' })
  /** selected accounts as one line, opened by the values of a dimension, which always add up to it */
  | (Selecting & { readonly kind: 'breakOut'; readonly by: string })
  /** all accounts of the section it names, in `sign`; absent, in that of its lines */
  | (LineBase & { readonly kind: 'total'; readonly of: string; readonly sign?: NaturalSign })
  /** the result that stands in income accounts: of the fiscal year so far, or of the years before that no closing entry moved; `closed` is what closing entries moved out of them, against the result's sign */
  | (LineBase & { readonly kind: 'earnings'; readonly years: EarningsYears; readonly measure?: BalanceMeasure })
  | (LineBase & { readonly kind: 'formula'; readonly expression: string; readonly result: 'amount' | RatioUnit })
  /** a figure that is not money; over a span it is added up, averaged, or the last one */
  | (LineBase & { readonly kind: 'statistic'; readonly series: string; readonly over: StatisticOver; readonly filter?: DimensionFilter })
  | (LineBase & { readonly kind: 'spacer' });
export type YearPart = 'current' | 'earlier';
export type EarningsYears = 'current' | 'earlier' | 'closed';
export type StatisticOver = 'sum' | 'average' | 'last';

/** The rows of a statement, as data. */
export type LineSet = {
  readonly key: string;
  readonly name: string;
  /** key of the line that percentages are taken of; without one they are taken of nothing */
  readonly percentBase?: string;
  readonly lines: readonly Line[];
};
