import { z } from 'zod';
import { periodKeySchema } from './common.ts';

export const periodSchema = z
  .object({ key: periodKeySchema, year: z.number().int(), number: z.number().int(), name: z.string(), longName: z.string() })
  .meta({ id: 'Period' });
export type PeriodDto = z.infer<typeof periodSchema>;

export const companySchema = z
  .object({
    id: z.number().int(),
    name: z.string(),
    currency: z.string(),
    currencyWords: z.string(),
    exponent: z.number().int(),
    startMonth: z.number().int(),
    hasAdjustmentPeriod: z.boolean(),
    years: z.array(z.number().int()),
    periods: z.array(periodSchema),
    /** the last month with postings; null before the first */
    lastPosted: periodKeySchema.nullable(),
    firstPosted: periodKeySchema.nullable(),
    dimensions: z.array(z.object({ name: z.string(), values: z.array(z.string()) })),
    accountCount: z.number().int(),
    entryCount: z.number().int(),
    draftCount: z.number().int(),
  })
  .meta({ id: 'Company' });
export type CompanyDto = z.infer<typeof companySchema>;
export const companyListSchema = z.array(z.object({ id: z.number().int(), name: z.string() }));
export const openYearSchema = z.object({ year: z.number().int().min(1900).max(2200) });

export const newCompanySchema = z.object({
  name: z.string().trim().min(1, 'Give the company a name').max(200),
  currency: z
    .string()
    .trim()
    .toUpperCase()
    .regex(/^[A-Z]{3}$/, 'Write the currency as three letters, such as USD'),
  startMonth: z.coerce
    .number()
    .int()
    .min(1, 'The fiscal year starts in a month from 1 to 12')
    .max(12, 'The fiscal year starts in a month from 1 to 12'),
  hasAdjustmentPeriod: z.preprocess((value) => value === true || value === 'true' || value === 'on', z.boolean()).default(false),
});
export type NewCompany = z.infer<typeof newCompanySchema>;
