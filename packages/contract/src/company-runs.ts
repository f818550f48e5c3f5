import { z } from 'zod';

import { minorSchema, periodKeySchema } from './common.ts';
import { mailAddressSchema } from './mail.ts';
import { PACK_FORMATS } from './packs.ts';

/** One pack issued for several companies. */
export const companyRunRequestSchema = z.object({
  /** made by whoever asks, once for each run: the same again begins nothing */
  key: z.string().min(8).max(100),
  pack: z.string().min(1, 'Choose a pack').max(100),
  month: periodKeySchema,
  companies: z.array(z.number().int()).min(1, 'Choose at least one company').max(60, 'At most 60 companies'),
  /** companies with something on their checklist are left as they are */
  onlyClear: z.boolean().default(false),
  /** one mail for each company; null mails nothing */
  mail: z
    .object({
      to: z.array(mailAddressSchema).max(500, 'At most 500 addresses'),
      /** names of lists: each company has its own addresses under them */
      lists: z.array(z.string().max(100)).max(50),
      subject: z.string().trim().min(1, 'Enter a subject').max(300, 'At most 300 characters'),
      text: z.string().max(20_000, 'At most 20,000 characters'),
      formats: z.array(z.enum(PACK_FORMATS)).max(4),
    })
    .nullable()
    .default(null),
});
export type CompanyRunRequest = z.infer<typeof companyRunRequestSchema>;

export const COMPANY_RUN_STATES = ['waiting', 'running', 'done', 'skipped', 'failed'] as const;
export const companyRunResultSchema = z.object({
  company: z.number().int(),
  name: z.string(),
  state: z.enum(COMPANY_RUN_STATES),
  /** what was done, or why not */
  note: z.string(),
  issue: z.number().int().nullable(),
  /** the month in figures; null until the company is reached */
  summary: z
    .object({
      currency: z.string(),
      exponent: z.number().int(),
      revenue: minorSchema.nullable(),
      operatingIncome: minorSchema.nullable(),
      /** variances past their limits */
      findings: z.number().int(),
      /** what wants a look before the pack is issued */
      checks: z.number().int(),
    })
    .nullable(),
});
export type CompanyRunResult = z.infer<typeof companyRunResultSchema>;
export const companyRunSchema = z
  .object({
    id: z.number().int(),
    pack: z.string(),
    packName: z.string(),
    month: periodKeySchema,
    startedAt: z.string(),
    /** null while it runs */
    finishedAt: z.string().nullable(),
    by: z.string(),
    results: z.array(companyRunResultSchema),
  })
  .meta({ id: 'CompanyRun' });
export type CompanyRunDto = z.infer<typeof companyRunSchema>;
export const companyRunListSchema = z.array(companyRunSchema).meta({ id: 'CompanyRuns' });
export const companyRunFilesQuerySchema = z.object({ format: z.enum(PACK_FORMATS).default('pdf') });
