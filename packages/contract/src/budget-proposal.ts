import { ACCOUNT_CLASS_KEYS } from '@wise-margin/core';
import { z } from 'zod';

import { newBudgetSchema } from './budgets.ts';
import { minorSchema, periodKeySchema } from './common.ts';
import { cellSchema } from './statements.ts';

export const budgetProposalQuerySchema = z.object({
  /** the fiscal year a budget would start from */
  from: z.coerce.number().int().min(1900).max(2200),
  /** its months to come are taken from its approved budget */
  projected: z
    .enum(['true', 'false'])
    .default('false')
    .transform((text) => text === 'true'),
});
/** What a new budget from a year would start with: amounts that may not recur, and a method for each account. */
export const budgetProposalSchema = z
  .object({
    candidates: z.array(
      z.object({
        account: z.string(),
        name: z.string(),
        period: periodKeySchema,
        /** null for a month to come, as the approved budget has it */
        entry: z.object({ id: z.number().int(), number: z.string(), description: z.string() }).nullable(),
        /** minor units in the account's shown sign */
        amount: minorSchema,
        /** minor units: what leaving it out does to net income */
        netIncome: minorSchema,
        reason: z.string(),
        /** its text or account says so, and it starts left out */
        isProposed: z.boolean(),
      }),
    ),
    methods: z.array(
      z.object({
        account: z.string(),
        name: z.string(),
        class: z.enum(ACCOUNT_CLASS_KEYS),
        method: z.string(),
        /** whole percent of the monthly variation that repeats each year; null where history is too short to say */
        repeats: z.number().int().nullable(),
        why: z.string(),
      }),
    ),
  })
  .meta({ id: 'BudgetProposal' });
export type BudgetProposalDto = z.infer<typeof budgetProposalSchema>;

/** A new budget as it would be created, except for what a person calls it. */
export const newBudgetPreviewRequestSchema = newBudgetSchema.omit({ name: true, note: true }).meta({ id: 'NewBudgetPreviewRequest' });
/** A year beside the budget made from it, in the shown sign. */
const yearTotalsSchema = z.object({
  base: minorSchema,
  /** nonrecurring items in the base that the budget leaves out */
  excluded: minorSchema,
  budget: minorSchema,
  change: cellSchema,
  percent: cellSchema,
});
/** What a new budget would come to by account class, beside the year it starts from. */
export const newBudgetPreviewSchema = z
  .object({
    year: z.number().int(),
    from: z.number().int(),
    /** which months of the base are actual, and what stands for the others */
    baseWords: z.string(),
    lines: z.number().int(),
    classes: z.array(yearTotalsSchema.extend({ class: z.enum(ACCOUNT_CLASS_KEYS), name: z.string() })),
    netIncome: yearTotalsSchema,
  })
  .meta({ id: 'NewBudgetPreview' });
export type NewBudgetPreviewDto = z.infer<typeof newBudgetPreviewSchema>;

/** The candidates whose text or account says that they are nonrecurring, as items that a new budget is asked to exclude. */
export const proposedNonrecurring = (candidates: BudgetProposalDto['candidates']) =>
  asNonrecurringItems(candidates.filter(({ isProposed }) => isProposed));

/** Candidates as the items that a new budget is asked to exclude. */
export const asNonrecurringItems = (candidates: BudgetProposalDto['candidates']) =>
  candidates.map(({ account, period, entry, reason }) => ({ account, period, ...(entry ? { entry: entry.id } : {}), reason }));
