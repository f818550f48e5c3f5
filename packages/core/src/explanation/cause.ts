import type { Minor } from '../money/minor.ts';

/** What explains a difference, as far as the ledger shows it. Amounts are parts of the difference, in the line's sign. */
export type Cause = CauseOf & {
  /** what of the difference it makes */
  readonly amount: Minor;
  /** how much of the difference it accounts for, 0 to 1: all where the two are equal */
  readonly share: number;
};
export type CauseOf =
  /** a bill posted again; lines are positions in the table */
  | { readonly kind: 'repeatedBill'; readonly line: number; readonly of: number; readonly size: Minor }
  /** a digit too many or too few, two digits changed over, or simply far larger than usual */
  | {
      readonly kind: 'unusualAmount';
      readonly line: number;
      readonly size: Minor;
      readonly usual: Minor;
      readonly as: 'tenfold' | 'tenth' | 'digitsSwapped' | 'large';
    }
  /** a customer or vendor on an account where it was never posted, though it is known elsewhere */
  | {
      readonly kind: 'unfamiliarAccount';
      readonly line: number;
      readonly party: number;
      readonly account: number;
      readonly usualAccount: number;
    }
  | { readonly kind: 'newParty'; readonly party: number; readonly line: number; readonly bills: number }
  /** nothing since a day, and what it had a year before in the same months since then */
  | { readonly kind: 'stoppedParty'; readonly party: number; readonly lastLine: number }
  /** a bill that came every month and did not */
  | { readonly kind: 'missingBill'; readonly party: number; readonly account: number; readonly usual: Minor; readonly lastLine: number }
  /** a standing charge at another level */
  | {
      readonly kind: 'changedPrice';
      readonly party: number;
      readonly account: number;
      readonly line: number;
      readonly before: Minor;
      readonly now: Minor;
    }
  /** an amount of one month posted or planned in a neighboring one */
  | {
      readonly kind: 'timing';
      readonly month: number;
      readonly neighbor: number;
      /** the variance of the neighboring month */
      readonly there: Minor;
      /** a line whose text names the other month; null for none */
      readonly line: number | null;
    }
  /** one part of a layout makes most of it: an account, a value of a dimension, a customer or vendor, or a month */
  | { readonly kind: 'part'; readonly by: 'account' | 'month' | 'party' | 'dimension'; readonly name: string; readonly key: string };
