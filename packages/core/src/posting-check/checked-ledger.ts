import type { DimensionCombination } from '../ledger/dimension.ts';
import type { LineTable } from '../ledger/line-table.ts';
import type { ReasonKind, ReasonOf } from './suspect.ts';

/** What the check knows of a ledger besides its lines. */
export type CheckedLedger = {
  readonly table: LineTable;
  /** by chart position */
  readonly accounts: readonly { readonly isIncome: boolean; readonly isDebit: boolean; readonly isWatched: boolean }[];
  readonly combinations: ReadonlyMap<number, DimensionCombination>;
  readonly dimensions: readonly string[];
  /** the calendar month of each slot, 1 to 12; 0 for an adjustment period */
  readonly monthOfSlot: readonly number[];
  readonly slotsInYear: number;
  /** slots to look at; postings outside are read, but not suspected */
  readonly slots: { readonly from: number; readonly to: number };
  /** the last slot of the last month of actuals: only in a month that is over can a posting be missing */
  readonly lastActual: number;
  /** kinds answered as fine for an account and party, as `learnedKey` writes them */
  readonly learned: ReadonlySet<string>;
};
export const learnedKey = (kind: ReasonKind, account: number, party: number): string => `${kind} ${account} ${party}`;

/** A reason at a line, before reasons are gathered by entry. */
export type FoundReason = { readonly line: number; readonly amount: number; readonly reason: ReasonOf };
