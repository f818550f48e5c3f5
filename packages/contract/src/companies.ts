import { z } from 'zod';

import { periodKeySchema } from './common.ts';

export const aggregationSchema = z.enum(['sum', 'average', 'last']);

export const periodSchema = z
  .object({ key: periodKeySchema, year: z.number().int(), number: z.number().int(), name: z.string(), longName: z.string() })
  .meta({ id: 'Period' });

export const companySchema = z
  .object({
    id: z.number().int(),
    /** of its books: goes up with each posting */
    version: z.number().int(),
    name: z.string(),
    currency: z.string(),
    currencyWords: z.string(),
    exponent: z.number().int(),
    startMonth: z.number().int(),
    hasAdjustmentPeriod: z.boolean(),
    years: z.array(z.number().int()),
    periods: z.array(periodSchema),
    /** the last month with postings, which may be one that is not over; null before the first */
    lastPosted: periodKeySchema.nullable(),
    firstPosted: periodKeySchema.nullable(),
    /** the last month of actuals; null before the first posting */
    lastActual: periodKeySchema.nullable(),
    /** how it was decided, and what is not clear about it */
    actuals: z.object({
      basis: z.enum(['chosen', 'closed', 'usualAccounts']),
      /** what closed months and postings say, whatever was chosen */
      proposed: periodKeySchema.nullable(),
      unclear: z.object({ month: periodKeySchema, posted: z.number().int(), usual: z.number().int() }).nullable(),
    }),
    dimensions: z.array(z.object({ name: z.string(), values: z.array(z.string()) })),
    /** customers and vendors, and source journals, are filtered by as dimensions are; their values are asked for apart */
    furtherDimensions: z.array(z.string()),
    statistics: z.array(z.string()),
    /** how each statistic goes over several months */
    aggregations: z.record(z.string(), aggregationSchema),
    currencySign: z.string(),
    /** goes up with each new logo; null without one */
    logo: z.string().nullable(),
    accountCount: z.number().int(),
    entryCount: z.number().int(),
    draftCount: z.number().int(),
  })
  .meta({ id: 'Company' });
export type CompanyDto = z.infer<typeof companySchema>;
export const companyListSchema = z.array(z.object({ id: z.number().int(), name: z.string(), isDemo: z.boolean() }));
export type CompanyListDto = z.infer<typeof companyListSchema>;

/** The demo companies: whether they are there, being made, or could not be made. */
export const demoSchema = z
  .object({
    state: z.enum(['none', 'making', 'made', 'failed']),
    companies: z.array(z.object({ id: z.number().int(), name: z.string() })),
    failure: z.string().nullable(),
  })
  .meta({ id: 'Demo' });
export type DemoDto = z.infer<typeof demoSchema>;
/** A month as the last one of actuals; null goes back to the proposed one. */
export const lastActualSchema = z.object({ month: periodKeySchema.nullable() });
export const openYearSchema = z.object({ year: z.number().int().min(1900).max(2200) });

export const newCompanySchema = z.object({
  name: z.string().trim().min(1, 'Enter a company name').max(200),
  currency: z
    .string()
    .trim()
    .toUpperCase()
    .regex(/^[A-Z]{3}$/, 'Enter the currency as three letters, such as USD'),
  startMonth: z.coerce
    .number()
    .int()
    .min(1, 'The fiscal year starts in a month from 1 to 12')
    .max(12, 'The fiscal year starts in a month from 1 to 12'),
  hasAdjustmentPeriod: z.preprocess((value) => value === true || value === 'true' || value === 'on', z.boolean()).default(false),
});
const formTextSchema = z.string().max(1000).optional();
/** Fields beside the files of an import: a company there is, by its number, or a new one. */
export const importFormSchema = z.object({
  company: z
    .string()
    .regex(/^\d{1,12}$/, 'The company is a number.')
    .optional(),
  name: formTextSchema,
  currency: formTextSchema,
  startMonth: formTextSchema,
  hasAdjustmentPeriod: formTextSchema,
});
export type NewCompany = z.infer<typeof newCompanySchema>;

/** The values of a dimension, customers and source journals included; an empty text stands for none. */
export const dimensionValuesSchema = z.object({ name: z.string(), values: z.array(z.string()) }).meta({ id: 'DimensionValues' });
export type DimensionValuesDto = z.infer<typeof dimensionValuesSchema>;

export const MEASURES = [
  'revenue',
  'gross_margin',
  'operating_income',
  'operating_margin',
  'net_income',
  'cash',
  'receivable_days',
  'inventory_days',
  'payable_days',
  'cash_conversion_cycle',
  'current_ratio',
  'debt_to_equity',
] as const;
/** Measures on the overview, in the order chosen, by their keys in the ratios view. */
export const measuresSchema = z
  .object({ measures: z.array(z.enum(MEASURES)).max(8, 'At most eight measures').nullable() })
  .meta({ id: 'OverviewMeasures' });
export type Measure = (typeof MEASURES)[number];
export type MeasuresDto = z.infer<typeof measuresSchema>;
