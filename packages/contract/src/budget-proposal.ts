import { z } from 'zod';
import { ACCOUNT_CLASS_KEYS } from '@wise-margin/core';
import { minorSchema, periodKeySchema } from './common.ts';

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

/** The candidates whose text or account says that they are nonrecurring, as a new budget is asked to leave them out. */
export const proposedNonrecurring = (candidates: BudgetProposalDto['candidates']) =>
  asNonrecurringItems(candidates.filter(({ isProposed }) => isProposed));

/** Candidates as the one-offs that a new budget is asked to leave out. */
export const asNonrecurringItems = (candidates: BudgetProposalDto['candidates']) =>
  candidates.map(({ account, period, entry, reason }) => ({ account, period, ...(entry ? { entry: entry.id } : {}), reason }));
