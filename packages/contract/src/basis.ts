import { type Basis, type Spread, SPREAD_KINDS, withoutPercentSign } from '@wise-margin/core';
import { z } from 'zod';

import { minorSchema } from './common.ts';

export const percentTextSchema = z
  .string()
  .max(30, 'Enter a percentage such as 3 or -1.5')
  .transform(withoutPercentSign)
  .pipe(z.string().regex(/^[+-]?\d{1,4}(\.\d{1,6})?$/, 'Enter a percentage such as 3 or -1.5'));

export const monthSchema = z.number().int().min(0).max(11);
const numberText = z
  .string()
  .max(30)
  .trim()
  .regex(/^[+-]?\d+(\.\d+)?$/, 'Enter a number such as 12.5');
const yearsSchema = z.array(z.number().int().min(1900).max(2200)).min(1, 'Choose at least one year').max(10, 'At most ten years');
/** The shape a total takes over the months. */
export const spreadSchema: z.ZodType<Spread> = z
  .union([
    z.enum(SPREAD_KINDS),
    z.discriminatedUnion('by', [
      z.object({ by: z.literal('shares'), years: yearsSchema }),
      z.object({ by: z.literal('line'), accounts: z.string().trim().min(1, 'Enter accounts').max(500) }),
      z.object({
        by: z.literal('weights'),
        weights: z
          .array(z.number().min(0).max(1e9))
          .length(12, 'Twelve weights')
          .refine((weights) => weights.some((weight) => weight > 0), 'Enter a weight above zero for at least one month'),
      }),
    ]),
  ])
  .meta({ id: 'Spread' });
const limits = {
  fromMonth: monthSchema.exactOptional(),
  roundTo: minorSchema.min(0).exactOptional(),
  least: minorSchema.exactOptional(),
  most: minorSchema.exactOptional(),
  projected: z.literal(true).exactOptional(),
  includeNonrecurring: z.literal(true).exactOptional(),
};
const stepsOf = <Value extends z.ZodType>(value: Value) =>
  z
    .array(z.object({ from: monthSchema, value }))
    .min(1, 'Enter at least one step')
    .max(12);
/** How a line's year is derived. Amounts are minor units in the account's shown sign. */
export const basisSchema: z.ZodType<Basis> = z
  .discriminatedUnion('kind', [
    z.object({
      kind: z.literal('sameMonths'),
      year: z.number().int(),
      changePercent: percentTextSchema,
      changeAmount: minorSchema.exactOptional(),
      ...limits,
    }),
    z.object({ kind: z.literal('averageYears'), years: yearsSchema, changePercent: percentTextSchema, ...limits }),
    z.object({ kind: z.literal('latestMonths'), count: z.number().int().min(1).max(60), changePercent: percentTextSchema, ...limits }),
    z.object({ kind: z.literal('trend'), of: z.enum(['months', 'years']), years: yearsSchema, seasonal: z.boolean(), ...limits }),
    z.object({
      kind: z.literal('percentOf'),
      accounts: z.string().trim().min(1, 'Enter accounts').max(500),
      percent: numberText,
      wholeCompany: z.literal(true).exactOptional(),
      /** an amount of the whole company, shared among the lines of the account */
      shared: z
        .union([z.literal('history'), z.object({ weights: z.record(z.string().min(1).max(450), z.number().min(0).max(1e9)) })])
        .exactOptional(),
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
      /** those who are there already, as they were paid in a year's same months */
      currentStaff: z.object({ year: z.number().int(), changePercent: percentTextSchema }).exactOptional(),
      positions: z
        .array(
          z.object({
            name: z.string().trim().min(1, 'Enter a position name').max(100),
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
    z.object({ kind: z.literal('typedTotal'), total: minorSchema, spread: spreadSchema, ...limits }),
    z.object({ kind: z.literal('yearTotal'), year: z.number().int(), changePercent: percentTextSchema, spread: spreadSchema, ...limits }),
    z.object({ kind: z.literal('typed'), ...limits }),
  ])
  .meta({ id: 'Basis' }) as unknown as z.ZodType<Basis>;
