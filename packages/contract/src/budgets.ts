import { z } from 'zod';
import { filterQuerySchema, filterSchema, minorSchema } from './common.ts';
import { packedGridSchema, type GridDto } from './statements.ts';
import { ACCOUNT_CLASS_KEYS, SPREAD_KINDS } from '@wise-margin/core';

export const percentTextSchema = z
  .string()
  .trim()
  .transform((text) => text.replace(/\s*%$/, ''))
  .pipe(z.string().regex(/^[+-]?\d{1,4}(\.\d{1,6})?$/, 'Write a percentage such as 3 or -1.5'));

export const newBudgetSchema = z
  .object({
    name: z.string().trim().min(1, 'Give the budget a name').max(120, 'At most 120 characters'),
    year: z.coerce.number().int().min(1900, 'Choose a fiscal year').max(2200),
    from: z.coerce.number().int().min(1900, 'Choose the year it starts from').max(2200),
    change: percentTextSchema.default('0'),
    changeByClass: z.partialRecord(z.enum(ACCOUNT_CLASS_KEYS), percentTextSchema).default({}),
    /** minor units; 0 leaves the months unrounded */
    roundTo: minorSchema.min(0).default(0),
  })
  .meta({ id: 'NewBudget' });
export type NewBudget = z.infer<typeof newBudgetSchema>;
export type NewBudgetInput = z.input<typeof newBudgetSchema>;

export const budgetStateSchema = z.enum(['working', 'approved']);
export const budgetSchema = z
  .object({
    id: z.number().int(),
    name: z.string(),
    year: z.number().int(),
    fromYear: z.number().int().nullable(),
    state: budgetStateSchema,
    createdAt: z.string(),
    actor: z.string(),
    lineCount: z.number().int(),
    revenue: minorSchema,
    operatingResult: minorSchema,
  })
  .meta({ id: 'Budget' });
export type BudgetDto = z.infer<typeof budgetSchema>;
export const budgetListSchema = z.array(budgetSchema);
export const budgetStateChangeSchema = z.object({ state: budgetStateSchema });

export const budgetGridQuerySchema = z.object({ filter: filterQuerySchema });
/** How one account's row stands: which months are held, by whom it is made. */
export const budgetRowSchema = z.object({
  account: z.string(),
  held: z.array(z.boolean()),
  lines: z.array(
    z.object({
      id: z.number().int(),
      dimensions: z.record(z.string(), z.string()),
      basis: z.string(),
      total: minorSchema,
      months: z.array(minorSchema),
      held: z.array(z.boolean()),
    }),
  ),
  history: z.array(z.object({ year: z.number().int(), months: z.array(minorSchema.nullable()) })),
  /** +1: debit shows positive; -1: credit does. Line amounts here are already in that sign. */
  sign: z.number().int(),
});
export const budgetGridSchema = z
  .object({
    budget: budgetSchema,
    filter: filterSchema,
    dimension: z.string().nullable(),
    grid: packedGridSchema,
    rows: z.array(budgetRowSchema),
    version: z.number().int(),
  })
  .meta({ id: 'BudgetGrid' });
export type PackedBudgetGrid = z.infer<typeof budgetGridSchema>;
export type BudgetGridDto = Omit<PackedBudgetGrid, 'grid'> & { readonly grid: GridDto };
export type BudgetRowDto = z.infer<typeof budgetRowSchema>;

/** One typed change. Amounts are what the person typed, in the row's shown sign; the server reads the text. */
export const budgetEditSchema = z
  .discriminatedUnion('kind', [
    z.object({ kind: z.literal('month'), account: z.string(), month: z.number().int().min(0).max(11), text: z.string().max(60) }),
    z.object({ kind: z.literal('year'), account: z.string(), text: z.string().max(60), spread: z.enum(SPREAD_KINDS) }),
    z.object({ kind: z.literal('release'), account: z.string(), months: z.array(z.number().int().min(0).max(11)).min(1) }),
  ])
  .meta({ id: 'BudgetEdit' });
export type BudgetEditDto = z.infer<typeof budgetEditSchema>;
export const budgetEditRequestSchema = z.object({ edits: z.array(budgetEditSchema).min(1).max(10000), filter: filterSchema.default({}) });
export type BudgetEditRequest = z.infer<typeof budgetEditRequestSchema>;
