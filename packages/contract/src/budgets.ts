import { ACCOUNT_CLASS_KEYS, FIRST_BASES, type FirstBasis } from '@wise-margin/core';
import { z } from 'zod';

import { basisSchema, percentTextSchema } from './basis.ts';
import { filterQuerySchema, filterSchema, minorSchema } from './common.ts';
import { newNonrecurringItemSchema } from './nonrecurring.ts';
import { type GridDto, packedGridSchema } from './statements.ts';

export const newBudgetSchema = z
  .object({
    name: z.string().trim().min(1, 'Enter a budget name').max(120, 'At most 120 characters'),
    year: z.coerce.number().int().min(1900, 'Choose a fiscal year').max(2200),
    from: z.coerce.number().int().min(1900, 'Choose the year it starts from').max(2200),
    change: percentTextSchema.default('0'),
    changeByClass: z.partialRecord(z.enum(ACCOUNT_CLASS_KEYS), percentTextSchema).default({}),
    /** how the lines of a class begin; left out, with the same months */
    basisByClass: z
      .partialRecord(z.enum(ACCOUNT_CLASS_KEYS), z.enum(Object.keys(FIRST_BASES) as [FirstBasis, ...FirstBasis[]]))
      .default({}),
    /** months of the year it starts from that are not posted yet are taken from its approved budget */
    projected: z.boolean().default(false),
    /** the dimensions its lines are budgeted by; left out, department or the company's first */
    dimensions: z.array(z.string().max(100)).max(4, 'At most four dimensions').optional(),
    note: z.string().trim().max(2000, 'At most 2,000 characters').default(''),
    /** minor units; 0 leaves the months unrounded */
    roundTo: minorSchema.min(0).default(0),
    /** nonrecurring amounts of the ledger, excluded before the lines are calculated */
    exclude: z.array(newNonrecurringItemSchema).max(500, 'At most 500 amounts').default([]),
  })
  .meta({ id: 'NewBudget' });
export type NewBudget = z.infer<typeof newBudgetSchema>;
export type NewBudgetInput = z.input<typeof newBudgetSchema>;

const BUDGET_STATES = ['draft', 'inReview', 'approved', 'superseded'] as const;
export const budgetStateSchema = z.enum(BUDGET_STATES);
export type BudgetStateDto = z.infer<typeof budgetStateSchema>;
export const budgetSchema = z
  .object({
    id: z.number().int(),
    name: z.string(),
    year: z.number().int(),
    fromYear: z.number().int().nullable(),
    state: budgetStateSchema,
    createdAt: z.string(),
    actor: z.string(),
    /** what it is for, in a person's words */
    note: z.string(),
    /** the budget it was copied from */
    copiedFrom: z.number().int().nullable(),
    /** the dimensions its lines are budgeted by */
    dimensions: z.array(z.string()),
    lineCount: z.number().int(),
    revenue: minorSchema,
    operatingIncome: minorSchema,
  })
  .meta({ id: 'Budget' });
export type BudgetDto = z.infer<typeof budgetSchema>;
export const budgetListSchema = z.array(budgetSchema);
export const budgetStateChangeSchema = z.object({
  state: budgetStateSchema,
  /** approve with open budget checks; this is recorded */
  anyway: z.boolean().default(false),
});

export const budgetGridQuerySchema = z.object({ filter: filterQuerySchema });
/** How one account's row stands: which months are held, by whom it is made. */
export const budgetRowSchema = z.object({
  account: z.string(),
  name: z.string(),
  /** what its lines hold together, by month and in the year */
  months: z.array(minorSchema),
  total: minorSchema,
  held: z.array(z.boolean()),
  lines: z.array(
    z.object({
      id: z.number().int(),
      dimensions: z.record(z.string(), z.string()),
      basis: z.string(),
      /** the basis itself, its amounts in the shown sign */
      basisForm: basisSchema,
      /** what the basis lacks, in words */
      warnings: z.array(z.string()),
      total: minorSchema,
      months: z.array(minorSchema),
      held: z.array(z.boolean()),
    }),
  ),
  /** earlier years, the latest last; null in months without a posting, `total` of those with one */
  history: z.array(z.object({ year: z.number().int(), months: z.array(minorSchema.nullable()), total: minorSchema })),
  /** nonrecurring items of history that the bases of its lines exclude */
  excluded: minorSchema,
  /** +1: debit shows positive; -1: credit does. Line amounts here are already in that sign. */
  sign: z.number().int(),
});
export const budgetGridSchema = z
  .object({
    budget: budgetSchema,
    filter: filterSchema,
    dimensions: z.array(z.string()),
    grid: packedGridSchema,
    rows: z.array(budgetRowSchema),
    version: z.number().int(),
  })
  .meta({ id: 'BudgetGrid' });
export type PackedBudgetGrid = z.infer<typeof budgetGridSchema>;
export type BudgetGridDto = Omit<PackedBudgetGrid, 'grid'> & { readonly grid: GridDto };
export type BudgetRowDto = z.infer<typeof budgetRowSchema>;

/** A basis as it would be, before it is set. */
export const basisPreviewRequestSchema = z.object({ account: z.string().max(40), filter: filterSchema.default({}), basis: basisSchema });
export const basisPreviewSchema = z
  .object({
    sentence: z.string(),
    /** by month, in the account's shown sign; held months as they stand */
    months: z.array(minorSchema),
    total: minorSchema,
    /** by how much the year would differ from what is budgeted */
    change: minorSchema,
    /** nonrecurring items of history that it excludes */
    excluded: minorSchema,
    /** what the basis lacks, in words */
    warnings: z.array(z.string()),
    /** what the whole account would come to, where every line takes its percentage of the whole company */
    wholeAccount: z.string().nullable(),
  })
  .meta({ id: 'BasisPreview' });
export type BasisPreviewDto = z.infer<typeof basisPreviewSchema>;
