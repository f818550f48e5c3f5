import type { Polarity } from '../chart/account-class.ts';
import type { DimensionFilter } from '../ledger/dimension.ts';
import type { Benchmark } from './benchmark.ts';
import type { RatioUnit } from './cell.ts';
import type { BalanceMeasure } from './column-set.ts';
import type { Expression } from './expression.ts';
import type { EarningsYears, LineRule, PartOrder, StatisticOver, YearPart } from './line-set.ts';

/** What a line's figures are made of. */
export type LineSource =
  | { readonly kind: 'nothing' }
  /** sums of accounts, by chart position, under the line's own filter */
  | { readonly kind: 'accounts'; readonly accounts: readonly number[] }
  /** the part of the parent's accounts with one value of a dimension; '' for those without */
  | { readonly kind: 'slice'; readonly accounts: readonly number[]; readonly dimension: string; readonly value: string }
  /** other lines added up, by index */
  | { readonly kind: 'members'; readonly lines: readonly number[] }
  | { readonly kind: 'earnings'; readonly years: EarningsYears }
  | { readonly kind: 'expression'; readonly expression: Expression; readonly result: 'amount' | RatioUnit }
  | { readonly kind: 'statistic'; readonly series: string; readonly over: StatisticOver }
  /** a formula that could not be read; its issue says why */
  | { readonly kind: 'faulty' };

/** A row ready to be computed. */
export type PlannedLine = {
  readonly index: number;
  readonly key: string;
  readonly name: string;
  readonly kind: 'section' | 'accounts' | 'account' | 'slice' | 'total' | 'earnings' | 'formula' | 'statistic' | 'spacer';
  readonly depth: number;
  /** index of the line this one opens from or stands in; -1 at the top */
  readonly parent: number;
  /** turns debit-positive sums into the shown sign */
  readonly sign: 1 | -1;
  readonly source: LineSource;
  readonly filter: DimensionFilter;
  /** in place of the column's measure; null takes the column's */
  readonly measure: BalanceMeasure | null;
  /** the part of balances closed at year end that it shows; null shows them whole */
  readonly yearPart: YearPart | null;
  /** whether the line holds figures of the balance sheet */
  readonly holdsBalances: boolean;
  readonly polarity: Polarity;
  readonly emphasis: 'bold' | 'italic' | null;
  readonly rule: LineRule | null;
  readonly hidden: boolean;
  /** the order of the lines that open from this one */
  readonly order: PartOrder;
  /** index of the line its shares are taken of; -1 takes the column's base */
  readonly percentOf: number;
  /** index of the total of the section it stands in; -1 where there is none */
  readonly ownGroup: number;
  readonly startsSide: boolean;
  readonly accountNumbers: boolean;
  /** what its ratio, or its share of the percent base, is compared with */
  readonly benchmark: Benchmark | null;
};
