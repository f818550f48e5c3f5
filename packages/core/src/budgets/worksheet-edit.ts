import type { DimensionFilter } from '../ledger/dimension.ts';
import type { Basis } from './basis.ts';
import type { BudgetEntryIssue } from './budget-entry.ts';
import type { EditResult } from './edit.ts';
import type { Spread } from './spread.ts';

/** Accounts a figure is typed for: one, or several whose sum it is. */
type Typed = {
  readonly account: string;
  /** further accounts that share the figure */
  readonly together?: readonly string[];
  /** what the text is positive in: 1 for debits, -1 for credits; the account's own shown sign when left out */
  readonly sign?: 1 | -1;
};
/** A change as a person makes it. Texts are what was typed; months count from 0. */
export type WorksheetEdit =
  | ({ readonly kind: 'month'; readonly month: number; readonly text: string } & Typed)
  | ({ readonly kind: 'year'; readonly text: string; readonly spread: Spread } & Typed)
  | ({ readonly kind: 'span'; readonly months: readonly number[]; readonly text: string; readonly spread: Spread } & Typed)
  | { readonly kind: 'release'; readonly account: string; readonly months: readonly number[] }
  /** amounts of the basis in the account's shown sign */
  | { readonly kind: 'basis'; readonly account: string; readonly basis: Basis }
  /** an empty text takes the note away; without a month it is of the row's year */
  | { readonly kind: 'note'; readonly account: string; readonly month: number | null; readonly text: string };

/** Why an edit changed nothing. */
export type WorksheetIssue =
  | BudgetEntryIssue
  | { readonly code: (EditResult & { readonly ok: false })['code'] | 'mixedSigns' }
  | { readonly code: 'unknownAccount' | 'notBudgeted' | 'budgetTooLarge' }
  | { readonly code: 'circle'; readonly accounts: readonly string[] };
/** An edit that was refused, by its place among those sent, with what stands in its way. */
export type WorksheetRefusal = { readonly edit: number; readonly account: string; readonly text: string; readonly issue: WorksheetIssue };

/** A note on a row of the budget: of an account under a filter, for a month or the year. */
export type BudgetNote = {
  readonly account: string;
  /** `filterKey` of the slices it is on */
  readonly slice: string;
  readonly month: number | null;
  readonly text: string;
};
export const noteKey = ({ account, slice, month }: Omit<BudgetNote, 'text'>): string => `${account} ${month ?? 'year'} ${slice}`;

/** Edits made in one slice, or in all of them together. */
export type WorksheetBatch = { readonly filter: DimensionFilter; readonly edits: readonly WorksheetEdit[] };
