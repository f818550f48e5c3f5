import { z } from 'zod';

import { minorSchema, periodKeySchema } from './common.ts';

/** An entry, or a whole month of an account, that is not recurring: bases of budgets leave it out of history. */
export const nonrecurringItemSchema = z
  .object({
    id: z.number().int(),
    account: z.string(),
    period: periodKeySchema,
    /** null for the whole month */
    entry: z.object({ id: z.number().int(), number: z.string(), description: z.string() }).nullable(),
    /** in the account's shown sign */
    amount: minorSchema,
    reason: z.string(),
    at: z.string(),
    actor: z.string(),
  })
  .meta({ id: 'NonrecurringItem' });
export type NonrecurringItemDto = z.infer<typeof nonrecurringItemSchema>;
export const nonrecurringListSchema = z.array(nonrecurringItemSchema);
export const nonrecurringQuerySchema = z.object({ account: z.string().max(40).optional() });
export const newNonrecurringItemSchema = z.object({
  account: z.string().max(40),
  period: periodKeySchema,
  /** its number in the database; left out, the whole month */
  entry: z.number().int().optional(),
  reason: z.string().trim().min(1, 'Enter a reason').max(500, 'At most 500 characters'),
});
