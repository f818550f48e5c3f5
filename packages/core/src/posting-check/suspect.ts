import type { Minor } from '../money/minor.ts';

/** Why a posting deserves a look, with the part of its score that it adds. */
export type Reason = ReasonOf & { readonly score: number };
export type ReasonOf =
  | { readonly kind: 'tenfold' | 'tenth' | 'digitsSwapped' | 'large'; readonly usual: Minor; readonly times: number }
  /** the earlier line, by its position */
  | { readonly kind: 'repeatedDocument' | 'repeatedAmount'; readonly of: number; readonly days: number }
  | { readonly kind: 'unfamiliarAccount'; readonly usualAccount: number; readonly times: number }
  /** of the account's lines, how many have the dimension */
  | { readonly kind: 'missingDimension'; readonly dimension: string; readonly usually: number }
  | { readonly kind: 'unusualDimension'; readonly dimension: string; readonly value: string; readonly times: number; readonly of: number }
  /** the text names another month than the one it is posted in; 1 to 12 */
  | { readonly kind: 'otherMonth'; readonly named: number }
  /** an entry that came every month for this many months before */
  | { readonly kind: 'missingBill'; readonly usual: Minor; readonly months: number }
  | { readonly kind: 'roundAtPeriodEnd' }
  | { readonly kind: 'manualAtPeriodEnd' }
  | { readonly kind: 'watchedAccount' }
  | { readonly kind: 'weekend' }
  /** a balance that was on the other side in most months */
  | { readonly kind: 'wrongSide'; readonly balance: Minor };
export type ReasonKind = ReasonOf['kind'];

/** A posting that deserves a look, or one that is missing. */
export type Suspect = {
  /** position of its line in the table; null for what is not there, such as a missing entry or a balance */
  readonly line: number | null;
  readonly account: number;
  /** position in the list of parties; -1 for none */
  readonly party: number;
  readonly slot: number;
  readonly amount: Minor;
  /** the sum of its reasons, times its weight */
  readonly score: number;
  /** more for a large amount, less the older it is */
  readonly weight: number;
  /** the strongest first; of the others half counts */
  readonly reasons: readonly Reason[];
};
