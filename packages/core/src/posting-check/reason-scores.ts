import type { ReasonKind } from './suspect.ts';

/** How much each kind says by itself, of 100. */
export const REASON_SCORES: Readonly<Record<ReasonKind, number>> = {
  repeatedDocument: 80,
  tenfold: 75,
  tenth: 65,
  watchedAccount: 65,
  digitsSwapped: 60,
  unfamiliarAccount: 60,
  otherMonth: 55,
  missingDimension: 50,
  missingBill: 45,
  wrongSide: 45,
  repeatedAmount: 30,
  large: 25,
  unusualDimension: 20,
  roundAtPeriodEnd: 15,
  manualAtPeriodEnd: 10,
  weekend: 8,
};
