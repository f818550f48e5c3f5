import {
  BALANCE_RULE_KINDS,
  type BalanceRule,
  type BalanceRuleKind,
  DAYS_CLASSES,
  DAYS_OF,
  type DaysBase,
  type DaysClass,
  withoutPercentSign,
} from '@wise-margin/core';
import { z } from 'zod';

import { monthSchema, percentTextSchema } from './basis.ts';
import { budgetSchema } from './budgets.ts';
import { minorSchema, periodKeySchema } from './common.ts';
import { type GridDto, packedGridSchema } from './statements.ts';

const daysText = z
  .string()
  .max(20)
  .trim()
  .regex(/^-?\d{1,4}(\.\d{1,2})?$/, 'Enter days such as 45 or 32.5');
const daysBase = z.enum(Object.keys(DAYS_OF) as [DaysBase, ...DaysBase[]]);
const rateText = z
  .string()
  .max(30, 'Enter an annual percentage rate such as 5.2')
  .transform(withoutPercentSign)
  .pipe(z.string().regex(/^\d{1,3}(\.\d{1,6})?$/, 'Enter an annual percentage rate such as 5.2'));
const positiveAmount = minorSchema.min(1, 'Enter an amount above zero');

/** How a balance-sheet account moves through a plan. Amounts are minor units in the account's shown sign; months count from 0. */
export const balanceRuleSchema: z.ZodType<BalanceRule> = z
  .discriminatedUnion('kind', [
    z.object({
      kind: z.literal('daysOf'),
      of: daysBase,
      days: z.union([z.literal('history'), z.array(daysText).length(12, 'Twelve months of days')]),
    }),
    z.object({ kind: z.literal('levelOfLastYear'), change: percentTextSchema }),
    z.object({ kind: z.literal('movementOfLastYear'), change: percentTextSchema }),
    z.object({ kind: z.literal('movements'), months: z.array(minorSchema).length(12, 'Twelve months') }),
    z.object({
      kind: z.literal('purchases'),
      items: z
        .array(z.object({ name: z.string().trim().min(1, 'Enter a description').max(100), month: monthSchema, amount: positiveAmount }))
        .max(200, 'At most 200 purchases'),
    }),
    z.object({ kind: z.literal('depreciation') }),
    z.object({
      kind: z.literal('loan'),
      form: z.enum(['level', 'straight', 'atEnd']),
      ratePercent: rateText,
      payments: z.number().int('Enter whole months').min(1, 'A loan has 1 to 1,200 payments').max(1200, 'A loan has 1 to 1,200 payments'),
      drawn: z.object({ month: monthSchema, amount: positiveAmount }).exactOptional(),
      /** the month at whose end that many payments were left; the server writes the one the plan opens from */
      countedFrom: periodKeySchema.exactOptional(),
    }),
    z.object({ kind: z.literal('tax'), paidIn: z.array(monthSchema).max(12) }),
    z.object({ kind: z.literal('stays') }),
    z.object({ kind: z.literal('rest') }),
  ])
  .meta({ id: 'BalanceRule' }) as unknown as z.ZodType<BalanceRule>;

export const balanceRuleChangeSchema = z.object({
  account: z.string().max(40),
  /** null goes back to what history gives */
  rule: balanceRuleSchema.nullable(),
  /** the version that was looked at; left out, nobody is asked about what others changed since */
  base: z.number().int().optional(),
  session: z.string().max(100).default(''),
  /** of the request: sent again under the same one, it counts once */
  key: z.string().max(100).optional(),
});

const loanMonthSchema = z.object({
  month: periodKeySchema,
  payment: minorSchema,
  interest: minorSchema,
  principal: minorSchema,
  balance: minorSchema,
});
export const balanceAccountSchema = z.object({
  account: z.string(),
  name: z.string(),
  rule: balanceRuleSchema,
  words: z.string(),
  /** what history gives, in words */
  historyWords: z.string(),
  fromHistory: balanceRuleSchema,
  isSet: z.boolean(),
  kinds: z.array(z.enum(BALANCE_RULE_KINDS as [BalanceRuleKind, ...BalanceRuleKind[]])),
  /** of a loan, the planned months */
  loan: z.array(loanMonthSchema).nullable(),
  /** how many days of a flow it stands for at each month end of the plan, where it may be counted in days */
  days: z.object({ of: daysBase, months: z.array(z.number().nullable()).length(12) }).nullable(),
});
export type BalanceAccountDto = z.infer<typeof balanceAccountSchema>;
/** A budget carried into balance sheet and cash. */
export const balancePlanSchema = z
  .object({
    budget: budgetSchema,
    version: z.number().int(),
    /** the last month taken from the ledger; null where nothing is posted before */
    opensFrom: periodKeySchema.nullable(),
    months: z.array(z.object({ key: periodKeySchema, cash: minorSchema })),
    openingCash: minorSchema,
    /** the month whose end has the least cash, by its position */
    /** position of the month whose end has the least cash; -1 where the opening balance is lower */
    lowest: z.number().int().min(-1),
    accounts: z.array(balanceAccountSchema),
    /** days of receivables, inventory and payables as a whole at each month end */
    days: z.array(z.object({ of: z.enum(DAYS_CLASSES as [DaysClass, ...DaysClass[]]), months: z.array(z.number().nullable()).length(12) })),
    /** what the plan wants said */
    notices: z.array(z.string()),
    /** interest by the schedules in months of the budget, where it differs from what is budgeted; null else */
    interest: z
      .object({ account: z.string(), months: z.array(z.object({ month: monthSchema, scheduled: minorSchema, budgeted: minorSchema })) })
      .nullable(),
    cashFlow: packedGridSchema,
    balanceSheet: packedGridSchema,
    /** what undo and redo would do next, in words */
    steps: z.object({ undo: z.string().nullable(), redo: z.string().nullable() }),
  })
  .meta({ id: 'BalancePlan' });
export type PackedBalancePlan = z.infer<typeof balancePlanSchema>;
export type BalancePlanDto = Omit<PackedBalancePlan, 'cashFlow' | 'balanceSheet'> & {
  readonly cashFlow: GridDto;
  readonly balanceSheet: GridDto;
};
