import { ACCOUNT_CLASS_KEYS, type WhatIf } from '@wise-margin/core';
import { z } from 'zod';

import { percentTextSchema } from './basis.ts';
import { periodKeySchema } from './common.ts';

/** Name and description of a new version. */
const newVersionSchema = z.object({
  name: z.string().trim().min(1, 'Enter a version name').max(120, 'At most 120 characters'),
  note: z.string().trim().max(2000, 'At most 2,000 characters').default(''),
});
export const copyBudgetSchema = newVersionSchema;
export const reforecastSchema = newVersionSchema.extend({
  /** the last month taken from actuals; left out, the last posted one */
  through: periodKeySchema.optional(),
  rest: z.enum(['budget', 'runRate', 'trend']).default('budget'),
});
/** Assumptions that are tried on a budget: percent changes by class, and of one driver. */
export const whatIfSchema: z.ZodType<WhatIf> = z
  .object({
    byClass: z.partialRecord(z.enum(ACCOUNT_CLASS_KEYS), percentTextSchema),
    driver: z.object({ name: z.string().max(100), percent: percentTextSchema }).exactOptional(),
  })
  .meta({ id: 'WhatIf' });
export const whatIfVersionSchema = newVersionSchema.extend({ tried: whatIfSchema });
