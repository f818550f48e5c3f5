import { type NewBudgetInput, percentTextSchema } from '@wise-margin/contract';
import { ACCOUNT_CLASSES, type AccountClass, type FirstBasis, parseTypedAmount } from '@wise-margin/core';
import { z } from 'zod';

/** Income classes, in statement order. */
export const CLASSES = (Object.keys(ACCOUNT_CLASSES) as AccountClass[]).filter((key) => ACCOUNT_CLASSES[key].statement === 'income');
const optionalPercent = z.union([z.literal(''), percentTextSchema]);

/** The fields of the form as text, as a person fills them in. */
export const newBudgetFieldsSchema = z.object({
  name: z.string().trim().min(1, 'Enter a budget name'),
  year: z.string(),
  from: z.string(),
  change: percentTextSchema,
  roundTo: z.string(),
  byClass: z.record(z.string(), optionalPercent),
  basis: z.record(z.string(), z.string()),
  projected: z.boolean(),
  dimensions: z.record(z.string(), z.boolean()),
  note: z.string(),
});
export type NewBudgetFields = z.input<typeof newBudgetFieldsSchema>;

/** The request for a new budget that the fields describe. */
export function newBudgetRequest(
  fields: NewBudgetFields,
  company: {
    readonly exponent: number;
    readonly dimensions: readonly { readonly name: string }[];
    /** whether months to come of the base year can be taken from an approved budget */
    readonly isProjectable: boolean;
    readonly exclude: NewBudgetInput['exclude'];
  },
): NewBudgetInput {
  const rounding = parseTypedAmount(fields.roundTo || '0', company.exponent);
  return {
    name: fields.name,
    year: fields.year,
    from: fields.from,
    change: fields.change,
    changeByClass: Object.fromEntries(Object.entries(fields.byClass).filter(([, text]) => text !== '')),
    basisByClass: fields.basis as Partial<Record<AccountClass, FirstBasis>>,
    projected: fields.projected && company.isProjectable,
    dimensions: company.dimensions.flatMap(({ name }) => (fields.dimensions[name] ? [name] : [])),
    note: fields.note,
    roundTo: rounding.ok ? rounding.value : 0,
    exclude: company.exclude,
  };
}
