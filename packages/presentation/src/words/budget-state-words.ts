import type { BudgetStateDto } from '@wise-margin/contract';

/** The states of a budget in words. */
export const STATE_WORDS: Readonly<Record<BudgetStateDto, string>> = {
  draft: 'Draft',
  inReview: 'In review',
  approved: 'Approved',
  superseded: 'Superseded',
};
