import { z } from 'zod';

import { filterQuerySchema, minorSchema, periodKeySchema } from './common.ts';

export const REPORTS = ['trial-balance', 'account-detail', 'journals', 'activity', 'aging'] as const;
export type ReportKey = (typeof REPORTS)[number];

const yesNo = (byDefault: 'yes' | 'no') => z.enum(['yes', 'no']).default(byDefault);
const unitSchema = z.enum(['cents', 'dollars', 'thousands', 'millions']).default('cents');
/** As typed: `Apr 2026 to Jun 2026`, `2026-04..2026-06`, `Q1 FY2027`, `Oct 15, 2026`. */
const rangeSchema = z.string().trim().min(1, 'Enter a month, a range such as Apr 2026 to Jun 2026, or a year such as FY2027').max(60);
const rangedSchema = z.object({ range: rangeSchema, unit: unitSchema, filter: filterQuerySchema, drafts: yesNo('no') });

export const trialBalanceQuerySchema = rangedSchema.extend({
  compare: z.enum(['none', 'prior-year', 'budget']).default('none'),
  /** the budget to compare with; left out, the approved one of each year */
  budget: z.coerce.number().int().min(1).optional(),
  /** inactive accounts without a balance too */
  inactive: yesNo('no'),
  /** accounts without a balance or movement too */
  zero: yesNo('no'),
});
export const accountDetailQuerySchema = rangedSchema.extend({
  /** as typed: `6000-6999, 7110`; left out, all */
  accounts: z.string().max(2000, 'At most 2,000 characters').default(''),
  class: z.string().max(100).default(''),
  /** words of the account's name */
  find: z.string().max(200, 'At most 200 characters').default(''),
  /** accounts without movement too */
  idle: yesNo('no'),
  /** in a spreadsheet, one sheet for each account; in a PDF, one page */
  apart: yesNo('no'),
});
export const journalsQuerySchema = rangedSchema.extend({ /** each entry, or the totals of each journal only */ detail: yesNo('no') });
export const activityQuerySchema = rangedSchema.extend({ kind: z.enum(['customers', 'vendors']).default('customers') });
export const agingQuerySchema = z.object({
  kind: z.enum(['receivables', 'payables']).default('receivables'),
  /** a day as typed; left out, today */
  asOf: z.string().trim().max(40).default(''),
  by: z.enum(['due', 'document']).default('due'),
  per: z.enum(['days', 'months']).default('days'),
  /** how many days or months a bucket has */
  size: z.coerce.number().int().min(1, 'A bucket has at least one day').max(3660).default(30),
  count: z.coerce.number().int().min(1, 'At least one bucket').max(24, 'At most 24 buckets').default(3),
  detail: yesNo('no'),
  unit: unitSchema,
  /** one customer or vendor by its name; left out, all */
  party: z.string().max(200).default(''),
  /** percentages of the allowance for each bucket, as typed: `1, 4, 10, 20, 40` */
  percents: z.string().max(200).default(''),
});
export type TrialBalanceQuery = z.infer<typeof trialBalanceQuerySchema>;
export type AccountDetailQuery = z.infer<typeof accountDetailQuerySchema>;
export type JournalsQuery = z.infer<typeof journalsQuerySchema>;
export type ActivityQuery = z.infer<typeof activityQuerySchema>;
export type AgingQuery = z.infer<typeof agingQuerySchema>;

/** The schema of each report's choices. */
export const REPORT_QUERIES = {
  'trial-balance': trialBalanceQuerySchema,
  'account-detail': accountDetailQuerySchema,
  journals: journalsQuerySchema,
  activity: activityQuerySchema,
  aging: agingQuerySchema,
} as const satisfies Readonly<Record<ReportKey, z.ZodType>>;

/** Which rows of a report are asked for. */
const pageSchema = { after: z.coerce.number().int().min(0).default(0), limit: z.coerce.number().int().min(1).max(2000).default(500) };
export const REPORT_PAGE_QUERIES = {
  'trial-balance': trialBalanceQuerySchema.extend(pageSchema),
  'account-detail': accountDetailQuerySchema.extend(pageSchema),
  journals: journalsQuerySchema.extend(pageSchema),
  activity: activityQuerySchema.extend(pageSchema),
  aging: agingQuerySchema.extend(pageSchema),
} as const;

export const reportColumnSchema = z.object({
  key: z.string(),
  heading: z.string(),
  /** amounts are in minor units; a percent is a fraction, or the text n/m */
  kind: z.enum(['text', 'date', 'amount', 'percent', 'count']),
  /** prior-year and budget figures bear the mark of their scenario */
  scenario: z.enum(['actual', 'prior', 'budget']).nullable(),
});
export type ReportColumnDto = z.infer<typeof reportColumnSchema>;

export const reportRowSchema = z.object({
  kind: z.enum(['section', 'line', 'subtotal', 'total']),
  cells: z.array(z.union([z.string(), z.number(), z.null()])),
  /** what the row opens */
  link: z
    .union([
      z.object({ to: z.literal('entry'), entry: z.number().int() }),
      z.object({ to: z.literal('account'), account: z.string(), from: periodKeySchema, until: periodKeySchema }),
      z.object({ to: z.literal('detail'), account: z.string() }),
      z.object({ to: z.literal('party'), party: z.string() }),
      z.object({ to: z.literal('journal'), journal: z.string() }),
    ])
    .nullable(),
  /** figures over time, oldest first, drawn small beside the row */
  trend: z.array(z.number().nullable()).exactOptional(),
});
export type ReportRowDto = z.infer<typeof reportRowSchema>;

export const reportSchema = z
  .object({
    key: z.enum(REPORTS),
    title: z.string(),
    /** what the figures are of: range, filters, drafts, currency */
    words: z.array(z.string()),
    columns: z.array(reportColumnSchema),
    rows: z.array(reportRowSchema),
    /** of all rows, not only the page */
    count: z.number().int(),
    next: z.number().int().nullable(),
    /** what a reader has to know: what was assumed, what does not agree */
    notes: z.array(
      z.object({
        text: z.string(),
        isWarning: z.boolean(),
        /** what to do on screen, left out on paper */ isHint: z.boolean().exactOptional(),
      }),
    ),
    unit: unitSchema,
    /** debits and credits that are to agree, where a report has both; in minor units */
    sides: z.object({ debits: minorSchema, credits: minorSchema }).nullable(),
  })
  .meta({ id: 'Report' });
export type ReportDto = z.infer<typeof reportSchema>;
