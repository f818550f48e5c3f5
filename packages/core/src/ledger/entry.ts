import type { IsoDate } from '../calendar/iso-date.ts';
import type { Minor } from '../money/minor.ts';

export const ENTRY_KINDS = ['ordinary', 'adjustment', 'closing', 'reclassification'] as const;
export type EntryKind = (typeof ENTRY_KINDS)[number];
export const ENTRY_STATES = ['posted', 'draft'] as const;
export type EntryState = (typeof ENTRY_STATES)[number];

export type EntryLine = {
  /** position of the account in the chart */
  readonly account: number;
  /** debit positive */
  readonly amount: Minor;
  /** one value for each dimension of the layout, in its order; '' stands for none */
  readonly dimensions: readonly string[];
  readonly memo: string;
  readonly party: string;
  readonly document: string;
  readonly due: IsoDate | null;
};

export type Entry = {
  readonly number: string;
  readonly date: IsoDate;
  readonly fiscalYear: number;
  /** 1 to 12, 13 for the adjustment period */
  readonly periodNumber: number;
  readonly source: string;
  readonly kind: EntryKind;
  readonly state: EntryState;
  readonly lines: readonly EntryLine[];
};
