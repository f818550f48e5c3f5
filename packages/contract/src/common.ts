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
/** Dimension values to keep, by dimension; an empty text keeps lines without a value. */
export const filterSchema = z.record(z.string().max(100), z.array(z.string().max(200)).max(200));
export type FilterDto = z.infer<typeof filterSchema>;

/** In a query the filter travels as JSON text. */
export const filterQuerySchema = z
  .string()
  .max(8000)
  .optional()
  .transform((text, context): FilterDto => {
    if (text === undefined || text === '') return {};
    try {
      const parsed = filterSchema.safeParse(JSON.parse(text));
      if (parsed.success) return parsed.data;
    } catch {
      // reported below: text that is no JSON is as wrong as JSON of another shape
    }
    context.addIssue({ code: 'custom', message: 'Write the filter as JSON, such as {"department":["Tours"]}' });
    return z.NEVER;
  });

const ruleWeightSchema = z.enum(['single', 'double']);
/** The rules at a line's amounts: above them, below them, or both. */
export const lineRuleSchema = z.object({ above: ruleWeightSchema.exactOptional(), below: ruleWeightSchema.exactOptional() });

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
