import type { BudgetNote, DeskEdit, DimensionFilter, Basis } from '@wise-margin/core';
import type { BudgetRowDto, DeskAnswerDto, DeskDto, PackedGrid, PreviewedBasis } from '@wise-margin/contract';

/** What is looked at: a slice, and the account whose panel is open. */
export type Look = { readonly filter: DimensionFilter; readonly account: string | null };
export type BasisTry = { readonly account: string; readonly filter: DimensionFilter; readonly basis: Basis };
export type Previewed = PreviewedBasis;

/** From the page to the worker. */
export type DeskRequest =
  | ({ readonly type: 'open'; readonly desk: DeskDto } & Look)
  | ({ readonly type: 'look' } & Look)
  | { readonly type: 'edit'; readonly id: number; readonly edits: readonly DeskEdit[]; readonly filter: DimensionFilter }
  | { readonly type: 'settle'; readonly id: number | null; readonly answer: Pick<DeskAnswerDto, 'lines' | 'notes'> | null }
  | ({ readonly type: 'try'; readonly id: number } & BasisTry);

/** The budget as it stands, edits on their way counted in. */
export type Shown = {
  readonly grid: PackedGrid;
  /** by account, which months are held: bit 0 is the first month */
  readonly held: Readonly<Record<string, number>>;
  readonly notes: readonly BudgetNote[];
  readonly row: BudgetRowDto | null;
  readonly refusals: readonly { readonly edit: number; readonly account: string; readonly text: string; readonly message: string }[];
};
/** From the worker to the page. */
export type DeskReply =
  | ({ readonly type: 'shown' } & Shown)
  | { readonly type: 'tried'; readonly id: number; readonly previewed: Previewed }
  | { readonly type: 'failed'; readonly message: string };
