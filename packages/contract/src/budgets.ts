import { z } from 'zod';
import { filterQuerySchema, filterSchema, minorSchema } from './common.ts';
import { packedGridSchema, type GridDto } from './statements.ts';
import { ACCOUNT_CLASS_KEYS, SPREAD_KINDS, type Basis } from '@wise-margin/core';

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
      /** the basis itself, its amounts in the shown sign */
      basisForm: z.lazy(() => basisSchema),
      /** what the basis lacks, in words */
      lacks: z.array(z.string()),
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

const monthSchema = z.number().int().min(0).max(11);
const numberText = z
  .string()
  .trim()
  .max(30)
  .regex(/^[+-]?\d+(\.\d+)?$/, 'Write a number such as 12.5');
const yearsSchema = z.array(z.number().int().min(1900).max(2200)).min(1, 'Choose at least one year').max(10, 'At most ten years');
const limits = {
  fromMonth: monthSchema.exactOptional(),
  roundTo: minorSchema.min(0).exactOptional(),
  least: minorSchema.exactOptional(),
  most: minorSchema.exactOptional(),
};
const stepsOf = <Value extends z.ZodType>(value: Value) =>
  z
    .array(z.object({ from: monthSchema, value }))
    .min(1, 'Give at least one step')
    .max(12);
/** How a line's year is derived. Amounts are minor units in the account's shown sign. */
export const basisSchema: z.ZodType<Basis> = z
  .discriminatedUnion('kind', [
    z.object({ kind: z.literal('sameMonths'), year: z.number().int(), changePercent: percentTextSchema, ...limits }),
    z.object({ kind: z.literal('averageYears'), years: yearsSchema, changePercent: percentTextSchema, ...limits }),
    z.object({ kind: z.literal('latestMonths'), count: z.number().int().min(1).max(60), changePercent: percentTextSchema, ...limits }),
    z.object({ kind: z.literal('trend'), of: z.enum(['months', 'years']), years: yearsSchema, seasonal: z.boolean(), ...limits }),
    z.object({
      kind: z.literal('percentOf'),
      accounts: z.string().trim().min(1, 'Name the accounts').max(500),
      percent: numberText,
      ...limits,
    }),
    z.object({
      kind: z.literal('driverRate'),
      driver: z.union([
        z.object({ series: z.string().min(1).max(100) }),
        z.object({ name: z.string().max(100), months: z.array(z.number().min(-1e12).max(1e12)).length(12) }),
      ]),
      rates: stepsOf(numberText),
      unit: z.number().int().min(1).max(1000),
      ...limits,
    }),
    z.object({
      kind: z.literal('fixedMonths'),
      steps: stepsOf(minorSchema),
      months: z.array(monthSchema).min(1).max(12).exactOptional(),
      ...limits,
    }),
    z.object({
      kind: z.literal('payroll'),
      positions: z
        .array(
          z.object({
            name: z.string().trim().min(1, 'Name the position').max(100),
            heads: z.number().min(0).max(100_000),
            yearlyPay: minorSchema.min(0),
            startMonth: monthSchema,
            raiseMonth: monthSchema.exactOptional(),
            raisePercent: percentTextSchema.exactOptional(),
          }),
        )
        .min(1, 'Add a position')
        .max(200),
      onCostPercent: percentTextSchema,
      ...limits,
    }),
    z.object({ kind: z.literal('typedTotal'), total: minorSchema, spread: z.enum(SPREAD_KINDS), ...limits }),
    z.object({ kind: z.literal('typed'), ...limits }),
  ])
  .meta({ id: 'Basis' }) as unknown as z.ZodType<Basis>;

/** A basis as it would be, before it is set. */
export const basisPreviewRequestSchema = z.object({ account: z.string(), filter: filterSchema.default({}), basis: basisSchema });
export type BasisPreviewRequest = z.input<typeof basisPreviewRequestSchema>;
export const basisPreviewSchema = z
  .object({
    sentence: z.string(),
    /** by month, in the account's shown sign; held months as they stand */
    months: z.array(minorSchema),
    total: minorSchema,
    /** what the basis lacks, in words */
    lacks: z.array(z.string()),
  })
  .meta({ id: 'BasisPreview' });
export type BasisPreviewDto = z.infer<typeof basisPreviewSchema>;

/** One typed change. Amounts are what the person typed, in the row's shown sign; the server reads the text. */
export const budgetEditSchema = z
  .discriminatedUnion('kind', [
    z.object({ kind: z.literal('month'), account: z.string(), month: z.number().int().min(0).max(11), text: z.string().max(60) }),
    z.object({ kind: z.literal('year'), account: z.string(), text: z.string().max(60), spread: z.enum(SPREAD_KINDS) }),
    z.object({ kind: z.literal('basis'), account: z.string(), basis: basisSchema }),
    z.object({ kind: z.literal('release'), account: z.string(), months: z.array(z.number().int().min(0).max(11)).min(1) }),
  ])
  .meta({ id: 'BudgetEdit' });
export type BudgetEditDto = z.infer<typeof budgetEditSchema>;
export const budgetEditRequestSchema = z.object({ edits: z.array(budgetEditSchema).min(1).max(10000), filter: filterSchema.default({}) });
export type BudgetEditRequest = z.infer<typeof budgetEditRequestSchema>;
