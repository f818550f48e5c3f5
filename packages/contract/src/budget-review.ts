import { z } from 'zod';

import { packedGridSchema } from './statements.ts';

/** An item of the budget checks, with its explanation if there is one. */
export const checkItemSchema = z.object({
  key: z.string(),
  account: z.string(),
  name: z.string(),
  /** value by dimension of the slice it is about, '' for none; null for the account as a whole */
  slice: z.record(z.string(), z.string()).nullable(),
  words: z.string(),
  answer: z.object({ text: z.string(), at: z.string(), actor: z.string() }).nullable(),
});
export type CheckItemDto = z.infer<typeof checkItemSchema>;
export const checkListSchema = z.object({ items: z.array(checkItemSchema), open: z.number().int() }).meta({ id: 'CheckList' });
export type CheckListDto = z.infer<typeof checkListSchema>;
/** An empty text removes the explanation. */
export const explanationSchema = z.object({ key: z.string().max(1000), text: z.string().trim().max(2000, 'At most 2,000 characters') });

export const comparisonQuerySchema = z.object({
  /** a budget's number; actuals or projection of its own year; `priorYear`: projection of the year before */
  with: z.union([z.enum(['actual', 'projection', 'priorYear']), z.coerce.number().int()]),
});
/** Two versions of a budget line by line, with how each side's lines are derived. */
export const comparisonSchema = z
  .object({
    left: z.string(),
    right: z.string(),
    grid: packedGridSchema,
    /** by account: how each side's lines are derived, and what was noted */
    reasons: z.record(z.string(), z.object({ left: z.array(z.string()), right: z.array(z.string()) })),
  })
  .meta({ id: 'BudgetComparison' });
export type ComparisonDto = z.infer<typeof comparisonSchema>;
