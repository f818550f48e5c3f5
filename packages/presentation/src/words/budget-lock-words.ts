import type { BudgetStateDto } from '@wise-margin/contract';

const LOCKS: Readonly<Record<BudgetStateDto, string | null>> = {
  draft: null,
  inReview: 'is in review and locked. Return it to draft to change it, or create a new version.',
  approved: 'is approved and locked. Create a new version to change it.',
  superseded: 'was superseded by a later version and is locked. Create a new version to change it.',
};

/** Why a budget cannot be changed in its state, and what to do; its name stands before it. Null where it can. */
export const budgetLockWords = (state: BudgetStateDto): string | null => LOCKS[state];
