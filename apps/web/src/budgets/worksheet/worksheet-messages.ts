import type { BudgetRowDto, CellDto, PackedGrid, WorksheetAnswerDto, WorksheetDto } from '@wise-margin/contract';
import type {
  Basis,
  BudgetNote,
  DimensionFilter,
  LineSet,
  Minor,
  TargetProposal,
  WhatIf,
  WorksheetEdit,
  YearCompared,
} from '@wise-margin/core';
import type { GridChanges, PreviewedBasis } from '@wise-margin/presentation';

/** What is looked at: a slice, the account whose panel is open, and the rows; those of the income statement when no line set is given. */
export type ViewRequest = { readonly filter: DimensionFilter; readonly account: string | null; readonly lineSet: LineSet | null };
/** A line the year is summed up by, with its change on last year and its share of revenue. */
export type SummaryLine = {
  readonly key: string;
  readonly name: string;
  readonly budget: CellDto;
  readonly difference: CellDto;
  readonly percent: CellDto;
  readonly share: CellDto;
};
export type BasisTry = { readonly account: string; readonly filter: DimensionFilter; readonly basis: Basis };
export type Previewed = PreviewedBasis;
/** A target for a line of the statement, to be shared among accounts. */
export type TargetTry = {
  readonly line: string;
  readonly target: Minor;
  readonly accounts: readonly string[];
  /** one for each account; null shares by their size */
  readonly weights: readonly number[] | null;
};
/** What can be asked of the worker without changing anything, and what it answers. */
export type Questions = {
  readonly basis: { readonly asked: BasisTry; readonly answer: Previewed };
  readonly whatIf: { readonly asked: WhatIf; readonly answer: readonly YearCompared[] };
  readonly drivers: { readonly asked: null; readonly answer: readonly string[] };
  readonly target: {
    readonly asked: TargetTry;
    /** the proposal, and the edits that take it */
    readonly answer: TargetProposal & { readonly edits: readonly WorksheetEdit[] };
  };
};
export type Question = {
  readonly [Kind in keyof Questions]: { readonly kind: Kind; readonly asked: Questions[Kind]['asked'] };
}[keyof Questions];

/** From the page to the worker. */
export type WorksheetRequest =
  | ({ readonly type: 'open'; readonly worksheet: WorksheetDto } & ViewRequest)
  | ({ readonly type: 'look' } & ViewRequest)
  | { readonly type: 'edit'; readonly id: number; readonly edits: readonly WorksheetEdit[]; readonly filter: DimensionFilter }
  | { readonly type: 'resolve'; readonly id: number | null; readonly answer: Pick<WorksheetAnswerDto, 'lines' | 'notes'> | null }
  | { readonly type: 'ask'; readonly id: number; readonly question: Question };

/** The budget as it stands, edits on their way counted in. */
export type ShownWorksheet = {
  /** null where only some figures of the grid shown before changed */
  readonly grid: PackedGrid | null;
  /** what changed since, where the grid is not sent */
  readonly changes: GridChanges;
  /** by account, which months are held: bit 0 is the first month; null where that is as it was */
  readonly held: Readonly<Record<string, number>> | null;
  /** null where they are as they were */
  readonly notes: readonly BudgetNote[] | null;
  readonly row: BudgetRowDto | null;
  readonly summary: readonly SummaryLine[];
  /** accounts with an amount that the rows of the line set leave out */
  readonly outside: readonly string[];
  /** accounts that follow one another in a circle, and so keep their months; null where none do */
  readonly circle: readonly string[] | null;
  readonly refusals: readonly { readonly edit: number; readonly account: string; readonly text: string; readonly message: string }[];
};
/** From the worker to the page. */
export type WorksheetReply =
  | ({ readonly type: 'shown' } & ShownWorksheet)
  | { readonly type: 'answered'; readonly id: number; readonly answer: Questions[keyof Questions]['answer'] }
  | { readonly type: 'failed'; readonly message: string };
