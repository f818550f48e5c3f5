import type { Minor } from '../money/minor.ts';
import type { BillGroup, Bills } from '../postings/bills.ts';
import type { CauseOf } from './cause.ts';
import type { LedgerLines, LedgerSide } from './ledger-side.ts';

/** A difference whose causes are looked for. */
export type Unexplained = {
  /** compared less base, in the line's sign */
  readonly variance: Minor;
  /** slots of the months in which it arose */
  readonly slots: { readonly from: number; readonly to: number };
  /** every posted line of the same accounts under the same filter, also after those months, each in the line's sign */
  readonly lines: LedgerSide;
  /** slots in a year, the adjustment period among them where it is kept */
  readonly slotsInYear: number;
  /** slots that are months; an adjustment period is none */
  readonly isMonth: (slot: number) => boolean;
  /** whether an account of the chart is of the income statement */
  readonly isIncome: (account: number) => boolean;
};
/** Bills of a difference, with the ledger they are in. */
export type BillsInView = Unexplained & {
  readonly ledger: LedgerLines;
  readonly bills: Bills;
  readonly groups: readonly BillGroup[];
  /** of a bill, in the line's sign */
  readonly signed: (bill: number) => number;
  readonly slotOf: (bill: number) => number;
  readonly isInView: (bill: number) => boolean;
};
/** What a detector found: a cause without its share of the difference. */
export type FoundCause = CauseOf & { readonly amount: Minor };
