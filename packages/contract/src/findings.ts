import { COMPARISONS } from '@wise-margin/core';
import { z } from 'zod';

import { filterQuerySchema, minorSchema, periodKeySchema, scopeSchema } from './common.ts';

export const findingComparisonSchema = z.enum(COMPARISONS);
export const findingSpanSchema = z.enum(['month', 'yearToDate']);

const limitAmountSchema = z.number('Enter the amount as a number, such as 5,000').int().positive('A limit is more than zero').max(9e15);
export const limitSchema = z
  .object({
    /** in minor units */
    amount: limitAmountSchema.nullable(),
    /** as a fraction: 0.1 is ten percent */
    percent: z
      .number('Enter the percent as a number, such as 10')
      .positive('A limit is more than zero')
      .max(100, 'At most 10,000%')
      .nullable(),
    passes: z.enum(['both', 'either']),
    /** smaller variances are never findings, whatever their percent */
    least: z.number('Enter the smallest variance as a number').int().nonnegative('The smallest variance is zero or more').max(9e15),
  })
  .refine(({ amount, percent }) => amount !== null || percent !== null, 'Enter an amount, a percent, or both')
  .meta({ id: 'MaterialityLimit' });
const spanLimits = { month: limitSchema, yearToDate: limitSchema };
export const materialitySchema = z
  .object({
    ...spanLimits,
    overrides: z
      .array(z.object({ of: z.enum(['view', 'class', 'line']), key: z.string().trim().min(1).max(300), ...spanLimits }))
      .max(200, 'At most 200 line-specific thresholds'),
  })
  .meta({ id: 'Materiality' });
export type MaterialityDto = z.infer<typeof materialitySchema>;
export type LimitDto = z.infer<typeof limitSchema>;
export const companyMaterialitySchema = z
  .object({
    materiality: materialitySchema,
    /** the company's own, those for all companies, or until somebody sets any, suggested from revenue */
    source: z.enum(['suggested', 'all', 'company']),
    /** names of the companies with limits of their own */
    changedBy: z.array(z.string()),
    /** what limits of their own can be set for */
    lines: z.array(z.object({ key: z.string(), name: z.string() })),
    classes: z.array(z.object({ key: z.string(), name: z.string() })),
  })
  .meta({ id: 'CompanyMateriality' });
/** Limits as they are set, for one company or for every company without its own. */
export const setMaterialitySchema = materialitySchema.extend({ scope: scopeSchema.default('company') });
export type SetMateriality = z.input<typeof setMaterialitySchema>;
export type CompanyMaterialityDto = z.infer<typeof companyMaterialitySchema>;
/** How many findings some limits give in each month, before they are set. */
export const materialityPreviewSchema = z
  .object({ months: z.array(z.object({ month: periodKeySchema, name: z.string(), findings: z.number().int() })) })
  .meta({ id: 'MaterialityPreview' });
export type MaterialityPreviewDto = z.infer<typeof materialityPreviewSchema>;

export const FINDING_STATUSES = ['open', 'explained', 'needsCorrection', 'corrected', 'accepted'] as const;
export const findingStatusSchema = z.enum(FINDING_STATUSES);
export type FindingStatus = z.infer<typeof findingStatusSchema>;

/** A text with figures in it that follow the ledger. */
export const liveTextSchema = z
  .object({
    /** with fields in braces, as it is edited: `Freight in is {variance} over budget.` */
    template: z.string(),
    segments: z.array(
      z.object({
        text: z.string(),
        /** the field it shows; null for plain text */
        field: z.string().nullable(),
        /** what it showed when the text was accepted, where that has changed */
        was: z.string().nullable(),
      }),
    ),
  })
  .meta({ id: 'LiveText' });
export type LiveTextDto = z.infer<typeof liveTextSchema>;

const findingKey = {
  view: z.string().max(200).default('income'),
  line: z.string().min(1).max(300),
  comparison: findingComparisonSchema,
};
const findingSpanFigures = z.object({
  span: findingSpanSchema,
  compared: minorSchema,
  base: minorSchema,
  variance: minorSchema,
  /** of the variance of a subtotal, what the findings among its lines do not explain */
  unexplained: minorSchema,
  /** of the size of the base, as a fraction; null for a base of zero */
  percent: z.number().nullable(),
  /** what `unexplained` does to operating income */
  effect: minorSchema,
});
export const findingSchema = z
  .object({
    line: z.string(),
    name: z.string(),
    isSubtotal: z.boolean(),
    /** the month it belongs to: the as-of month, or an earlier one that is still without an answer */
    month: periodKeySchema,
    monthName: z.string(),
    isEarlier: z.boolean(),
    /** past their limit, the larger effect first */
    spans: z.array(findingSpanFigures).min(1),
    favor: z.enum(['F', 'U']).nullable(),
    /** months in a row, this one among them, in which the line was a finding on the same side */
    monthsInRow: z.number().int(),
    /** explained as timing a month before, and not reversed since */
    notReversed: z.boolean(),
    status: findingStatusSchema,
    owner: z.string(),
    due: z.string().nullable(),
    hasComment: z.boolean(),
    /** questions without an answer */
    questions: z.number().int(),
  })
  .meta({ id: 'Finding' });
export type FindingDto = z.infer<typeof findingSchema>;
export const findingsQuerySchema = z.object({
  view: findingKey.view,
  asOf: periodKeySchema,
  comparison: findingComparisonSchema.default('budget'),
  budget: z.coerce.number().int().optional(),
});
export const findingsSchema = z
  .object({
    asOf: periodKeySchema,
    asOfWords: z.string(),
    comparison: findingComparisonSchema,
    /** what it is compared with, in words */
    against: z.string(),
    findings: z.array(findingSchema),
    /** how many there are; more than are listed where a limit is too low */
    count: z.number().int(),
    /** why nothing can be compared; null when it can */
    missing: z.string().nullable(),
  })
  .meta({ id: 'Findings' });
export type FindingsDto = z.infer<typeof findingsSchema>;

const partSchema = z.object({
  key: z.string(),
  name: z.string(),
  compared: minorSchema,
  base: minorSchema,
  amount: minorSchema,
  /** the entry it is, or the entries behind it */
  entry: z.number().int().nullable(),
});
/** The statistic that a line’s volumes are, and what budgets plan of it: a driver of theirs, or a statistic; empty for none. */
export const lineDriverSchema = z
  .object({
    series: z.string().trim().min(1, 'Choose a statistic').max(200),
    planned: z.string().trim().max(200),
    /** what is used up for it, such as hours, and what budgets plan of that; empty where none is kept */
    input: z.string().trim().max(200).default(''),
    plannedInput: z.string().trim().max(200).default(''),
  })
  .meta({ id: 'LineDriver' });
export type LineDriverDto = z.infer<typeof lineDriverSchema>;
export const setLineDriverSchema = z.object({ line: z.string().min(1).max(300), driver: lineDriverSchema.nullable() });
/** A difference by volume and price; parts add up to it. */
export const priceVolumeSchema = z
  .object({
    parts: z.array(
      z.object({ kind: z.enum(['quantity', 'mix', 'efficiency', 'price', 'unmatched']), name: z.string(), amount: minorSchema }),
    ),
    base: minorSchema,
    /** the base at the volumes of the compared side */
    flexible: minorSchema,
    compared: minorSchema,
    baseVolume: z.number(),
    comparedVolume: z.number(),
    /** of the driver’s dimension; a single one without a name where it has none */
    segments: z.array(
      z.object({
        name: z.string(),
        baseVolume: z.number().nullable(),
        comparedVolume: z.number().nullable(),
        volumeEffect: minorSchema,
        priceEffect: minorSchema,
        difference: minorSchema,
        isMatched: z.boolean(),
      }),
    ),
  })
  .meta({ id: 'PriceVolume' });
export type PriceVolumeDto = z.infer<typeof priceVolumeSchema>;

export const varianceExplanationSchema = z
  .object({
    line: z.object({ key: z.string(), name: z.string() }),
    column: z.string(),
    view: z.string(),
    words: z.object({ compared: z.string(), base: z.string() }),
    headings: z.object({ compared: z.string(), base: z.string() }),
    compared: minorSchema,
    base: minorSchema,
    variance: minorSchema,
    percent: z.number().nullable(),
    favor: z.enum(['F', 'U']).nullable(),
    /** the sentence that says why, drafted from the ledger */
    proposal: liveTextSchema,
    causes: z.array(
      z.object({
        kind: z.string(),
        sentence: liveTextSchema,
        /** what of the difference it makes */
        amount: minorSchema,
        /** how much of the difference that is, 0 to 1 */
        share: z.number(),
        /** the entry that shows it */
        entry: z.number().int().nullable(),
      }),
    ),
    /** the difference laid out; each adds up to it exactly */
    layouts: z.array(
      z.object({
        by: z.string(),
        name: z.string(),
        parts: z.array(partSchema),
        /** the fewest parts that explain four fifths of it */
        shown: z.number().int(),
        /** parts that are not listed one by one */
        rest: z.object({ count: z.number().int(), amount: minorSchema }),
        total: minorSchema,
      }),
    ),
    /** null for a subtotal, which has no volumes of its own */
    driver: z
      .object({
        chosen: lineDriverSchema.nullable(),
        series: z.array(z.string()),
        planned: z.array(z.string()),
        /** null without a driver, or where it cannot be split; `missing` says why */
        split: priceVolumeSchema.nullable(),
        /** months without a volume on one of the sides, or why nothing is split; empty where nothing is missing */
        missing: z.string(),
      })
      .nullable(),
    /** items that the budget’s bases left out as nonrecurring, and that this line has in the months of the base year */
    nonrecurring: z.array(z.object({ words: z.string(), amount: minorSchema, entry: z.number().int().nullable() })),
    /** the variance of each posted month of the year */
    months: z.array(z.object({ month: periodKeySchema, name: z.string(), variance: minorSchema })),
  })
  .meta({ id: 'VarianceExplanation' });
export type VarianceExplanationDto = z.infer<typeof varianceExplanationSchema>;
export const explanationQuerySchema = z.object({
  view: findingKey.view,
  line: findingKey.line,
  asOf: periodKeySchema,
  /** a difference of the view's own columns; left out, `comparison` and `span` say which */
  column: z.string().max(300).optional(),
  comparison: findingComparisonSchema.default('budget'),
  span: findingSpanSchema.default('month'),
  budget: z.coerce.number().int().optional(),
  filter: filterQuerySchema,
  /** `line` lays a subtotal out by its lines alone, which is quick */
  by: z.enum(['all', 'line']).default('all'),
});
export type ExplanationQuery = z.infer<typeof explanationQuerySchema>;

/** What people said about a finding. */
export const findingRecordSchema = z
  .object({
    status: findingStatusSchema,
    owner: z.string(),
    due: z.string().nullable(),
    isTiming: z.boolean(),
    /** the template of the drafted comment that was rejected; empty for none */
    rejected: z.string(),
    /** the accepted comment; null for none */
    comment: liveTextSchema.nullable(),
    /** whether figures of the accepted comment have changed since */
    hasMoved: z.boolean(),
    notes: z.array(
      z.object({ at: z.string(), person: z.string(), kind: z.enum(['status', 'comment', 'question', 'answer']), text: z.string() }),
    ),
  })
  .meta({ id: 'FindingRecord' });
export type FindingRecordDto = z.infer<typeof findingRecordSchema>;
export const findingRecordQuerySchema = z.object({ ...findingKey, month: periodKeySchema, span: findingSpanSchema.default('month') });
const personSchema = z.string().trim().max(100, 'At most 100 characters');
export const changeFindingSchema = z.object({
  ...findingKey,
  month: periodKeySchema,
  span: findingSpanSchema.default('month'),
  status: findingStatusSchema.optional(),
  owner: personSchema.optional(),
  due: z.iso.date('Enter the due date as YYYY-MM-DD').nullable().optional(),
  /** an amount of one month posted in the next: it comes back by itself when it does not reverse */
  isTiming: z.boolean().optional(),
  /** the drafted comment that is rejected, by its template; an empty text brings it back */
  rejected: z.string().max(4000).optional(),
  /** fields in braces; an empty text removes it */
  comment: z.string().max(4000, 'At most 4,000 characters').optional(),
});
export type ChangeFinding = z.infer<typeof changeFindingSchema>;
export const findingNoteSchema = z.object({
  ...findingKey,
  month: periodKeySchema,
  span: findingSpanSchema.default('month'),
  kind: z.enum(['question', 'answer']),
  person: personSchema.min(1, 'Enter a name'),
  text: z.string().trim().min(1, 'Enter the text').max(4000, 'At most 4,000 characters'),
});
export type FindingNote = z.infer<typeof findingNoteSchema>;
