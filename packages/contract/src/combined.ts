import { COMBINED_SCENARIOS, COMBINED_SPANS } from '@wise-margin/core';
import { z } from 'zod';

import { periodKeySchema } from './common.ts';
import { displayQuery } from './display.ts';

export const currencyCodeSchema = z.string().regex(/^[A-Z]{3}$/, 'Enter a currency code such as USD');

/** Several companies that are looked at together. */
export const companyGroupChangeSchema = z.object({
  name: z.string().trim().min(1, 'Enter a name').max(100, 'At most 100 characters'),
  /** in what the combined figures are shown */
  currency: currencyCodeSchema,
  /** the company whose fiscal year and views the combined statements have */
  lead: z.number().int(),
  members: z
    .array(
      z.object({
        company: z.number().int(),
        /** numbers of the accounts left out between the companies */
        intercompany: z.array(z.string().trim().min(1).max(40)).max(500, 'At most 500 accounts'),
      }),
    )
    .min(2, 'Choose at least two companies')
    .max(60, 'At most 60 companies'),
});
export type CompanyGroupChange = z.infer<typeof companyGroupChangeSchema>;
export const companyGroupSchema = companyGroupChangeSchema
  .extend({
    id: z.number().int(),
    /** goes up with each saving */
    version: z.number().int(),
    members: z.array(
      z.object({
        company: z.number().int(),
        name: z.string(),
        currency: z.string(),
        intercompany: z.array(z.string()),
        /** the last posted month, in words */
        lastPosted: z.string().nullable(),
      }),
    ),
  })
  .meta({ id: 'CompanyGroup' });
export type CompanyGroupDto = z.infer<typeof companyGroupSchema>;
export const companyGroupListSchema = z.array(companyGroupSchema).meta({ id: 'CompanyGroups' });
/** `version` is the one that was opened: saving over another one is refused. */
export const companyGroupSaveSchema = companyGroupChangeSchema.extend({ version: z.number().int() });

export const combinedQuerySchema = z.object({
  asOf: periodKeySchema,
  /** the months the figures are over */
  span: z.enum(COMBINED_SPANS).default('yearToDate'),
  scenario: z.enum(COMBINED_SCENARIOS).default('actual'),
  /** the companies side by side, or the columns of the view with the combined figures */
  columns: z.enum(['companies', 'view']).default('companies'),
  ...displayQuery,
});
export type CombinedQuery = z.infer<typeof combinedQuerySchema>;
export const combinedExportQuerySchema = combinedQuerySchema.extend({
  /** keys of the opened lines by comma, or `all` */
  open: z.string().max(8000).default(''),
});

/** Rates from one currency to another, by month. */
export const exchangeRatesSchema = z
  .object({
    from: z.string(),
    to: z.string(),
    rates: z.array(z.object({ month: periodKeySchema, average: z.number(), closing: z.number() })),
  })
  .meta({ id: 'ExchangeRates' });
export type ExchangeRatesDto = z.infer<typeof exchangeRatesSchema>;
/** A table as pasted: month, average rate, closing rate in each row. */
export const exchangeRatesTextSchema = z.object({ text: z.string().max(100_000, 'At most 100,000 characters') });
