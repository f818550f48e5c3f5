import type { BasisDraft } from './basis-draft.ts';

/** What every part of a basis sentence reads and sets. */
export type SentenceProps = {
  readonly draft: BasisDraft;
  /** of the fiscal year, as they are called */
  readonly months: readonly string[];
  /** with history */
  readonly years: readonly number[];
  /** nonrecurring items of history that it excludes, in minor units */
  readonly excluded: number;
  readonly set: (part: Partial<BasisDraft>) => void;
};
