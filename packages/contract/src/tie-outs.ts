import { z } from 'zod';

import { minorSchema, periodKeySchema } from './common.ts';

export const TIE_OUT_GROUPS = ['Ledger', 'Statements', 'Open items', 'Budgets', 'Views'] as const;
/** Two figures that must agree. */
export const tieOutSchema = z
  .object({
    key: z.string(),
    group: z.enum(TIE_OUT_GROUPS),
    name: z.string(),
    first: z.object({ words: z.string(), amount: minorSchema }),
    second: z.object({ words: z.string(), amount: minorSchema }),
    difference: minorSchema,
    agrees: z.boolean(),
    /** where they part, in words; empty where they agree */
    where: z.string(),
    /** an address of the application, below the company, that leads there */
    link: z.string(),
  })
  .meta({ id: 'TieOut' });
export type TieOutDto = z.infer<typeof tieOutSchema>;
export const tieOutsQuerySchema = z.object({
  asOf: periodKeySchema,
  /** run again though nothing was posted since */
  again: z.enum(['yes', 'no']).default('no'),
});
export const tieOutsSchema = z
  .object({ asOf: periodKeySchema, asOfWords: z.string(), tieOuts: z.array(tieOutSchema), failing: z.number().int(), at: z.string() })
  .meta({ id: 'TieOuts' });
export type TieOutsDto = z.infer<typeof tieOutsSchema>;
