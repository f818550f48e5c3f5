import { z } from 'zod';

import { filterQuerySchema, minorSchema } from './common.ts';

export const budgetFileQuerySchema = z.object({ filter: filterQuerySchema });
/** Fields beside a completed file: `apply` is `yes` to make its changes, which belong to a session's undo. */
export const budgetFileFormSchema = z.object({
  apply: z.string().max(10).optional(),
  session: z.string().max(100).default(''),
});
/** What a file that was filled in would change, or has changed. */
export const budgetFileEffectSchema = z
  .object({
    file: z.string(),
    /** the budget it was taken from, when it says so and is another one */
    from: z.string().nullable(),
    changes: z.array(
      z.object({ account: z.string(), name: z.string(), slice: z.string(), month: z.string(), from: minorSchema, to: minorSchema }),
    ),
    notes: z.array(z.object({ account: z.string(), name: z.string(), slice: z.string(), text: z.string() })),
    same: z.number().int(),
    issues: z.array(z.object({ row: z.number().int(), column: z.string(), text: z.string(), reason: z.string(), fix: z.string() })),
    applied: z.boolean(),
  })
  .meta({ id: 'BudgetFileEffect' });
export type BudgetFileEffectDto = z.infer<typeof budgetFileEffectSchema>;
