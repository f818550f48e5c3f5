import type { Minor } from '../money/minor.ts';
import type { Favor } from '../variance/favor.ts';

/** Why a cell has no meaningful figure. */
export type NotMeaningfulReason = 'zeroBase' | 'divisionByZero' | 'fromNotMeaningful' | 'outOfRange' | 'faultyLine' | 'faultyColumn';
/** Why a cell is left empty. */
export type BlankReason =
  | 'noLine'
  | 'outsideCalendar'
  | 'emptySpan'
  | 'notYetPosted'
  | 'beforeHistory'
  | 'noBudget'
  | 'noBalanceBudget'
  | 'noBudgetByDimension'
  | 'bothZero'
  | 'ratioLine'
  | 'noStatistic'
  | 'noBenchmark'
  | 'partOfEarnings'
  | 'noCommonMonths'
  | 'fromBlank';
/** percent: a fraction shown times 100; points: a difference of two such fractions; times: a plain ratio. */
export type RatioUnit = 'percent' | 'points' | 'times' | 'days';

/** What a statement shows in one place: an amount in minor units in the line's shown sign, a quantity of a statistic, a ratio, nothing meaningful, or nothing. */
export type Cell =
  | {
      readonly kind: 'amount';
      readonly value: Minor;
      readonly favor?: Favor;
      /** the amount before it was rounded to a minor unit, where that is not whole: formulas read it */
      readonly unrounded?: number;
    }
  | { readonly kind: 'quantity'; readonly value: number; readonly favor?: Favor }
  | { readonly kind: 'ratio'; readonly value: number; readonly unit: RatioUnit; readonly favor?: Favor }
  | { readonly kind: 'notMeaningful'; readonly reason: NotMeaningfulReason }
  | { readonly kind: 'blank'; readonly reason: BlankReason };

export const blank = (reason: BlankReason): Cell => ({ kind: 'blank', reason });
export const notMeaningful = (reason: NotMeaningfulReason): Cell => ({ kind: 'notMeaningful', reason });
export const amount = (value: Minor): Cell => ({ kind: 'amount', value });
