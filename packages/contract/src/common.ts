import { z } from 'zod';

/** Money on the wire: a whole number of minor units of the company's currency. */
export const minorSchema = z.number().int().min(-9e15).max(9e15).meta({ description: 'minor units of the currency' });
export const periodKeySchema = z
  .string()
  .regex(/^\d{4}-(0[1-9]|1[0-2])$/, 'Enter the month as YYYY-MM, such as 2026-10')
  .meta({ description: 'a month by its calendar year and month', example: '2026-10' });
export const fiscalYearSchema = z.coerce
  .number()
  .int()
  .min(1900, 'A fiscal year is a number such as 2027')
  .max(2200, 'A fiscal year is a number such as 2027');
/** Values to filter by, by dimension; an empty text takes lines without a value. */
export const filterSchema = z.record(z.string().max(100), z.array(z.string().max(200)).max(200));
export type FilterDto = z.infer<typeof filterSchema>;

/** In a query a filter is sent as parameters, one for each value (see `filterParameters`). */
export const filterQuerySchema = z
  .record(z.string().max(100), z.array(z.string().max(200)).max(200), 'Write a filter as filter.department=Tours')
  .default({})
  .meta({
    description: 'Sent as `filter.department=Tours`, once for each value; `(none)` takes lines without a value, `(all)` every value.',
  });

const ruleWeightSchema = z.enum(['single', 'double']);
/** The rules at a line's amounts: above them, below them, or both. */
export const lineRuleSchema = z.object({ above: ruleWeightSchema.exactOptional(), below: ruleWeightSchema.exactOptional() });

/** Whom something is kept for: one company, or every company that has not its own. */
export const scopeSchema = z.enum(['company', 'all']);
export type Scope = z.infer<typeof scopeSchema>;

/** RFC 9457 problem details, with the fields at fault. */
export const problemSchema = z
  .object({
    type: z.string(),
    title: z.string(),
    status: z.number().int(),
    detail: z.string(),
    errors: z.array(z.object({ path: z.string(), message: z.string() })).optional(),
  })
  .meta({ id: 'Problem' });
export type Problem = z.infer<typeof problemSchema>;
