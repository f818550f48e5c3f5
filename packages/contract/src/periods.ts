import { PERIOD_STATES } from '@wise-margin/core';
import { z } from 'zod';

/** A period of a company's ledger, whether it takes entries, and what is in it. */
export const ledgerPeriodSchema = z.object({
  year: z.number().int(),
  /** 1 to 12; 13 is the adjustment period */
  number: z.number().int(),
  name: z.string(),
  state: z.enum(PERIOD_STATES),
  entries: z.number().int(),
  drafts: z.number().int(),
});
export const ledgerPeriodsSchema = z
  .object({
    periods: z.array(ledgerPeriodSchema),
    /** people who may post in soft-closed periods */
    people: z.array(z.string()),
  })
  .meta({ id: 'LedgerPeriods' });
export type LedgerPeriodDto = z.infer<typeof ledgerPeriodSchema>;
export type LedgerPeriodsDto = z.infer<typeof ledgerPeriodsSchema>;

/** What is unfinished in a period, before it is closed. */
export const unfinishedSchema = z
  .object({
    items: z.array(z.object({ kind: z.enum(['drafts', 'imports', 'tieOut', 'recurring']), words: z.string() })),
  })
  .meta({ id: 'Unfinished' });
export type UnfinishedDto = z.infer<typeof unfinishedSchema>;

const periodSchema = { year: z.coerce.number().int(), number: z.coerce.number().int().min(1).max(13) };
export const periodQuerySchema = z.object(periodSchema);
export const changePeriodSchema = z.object({
  ...periodSchema,
  state: z.enum(PERIOD_STATES),
  /** earlier periods that are more open than this one become like it */
  earlier: z.boolean().default(false),
  /** needed to reopen */
  reason: z.string().trim().max(500, 'At most 500 characters').default(''),
});
export type ChangePeriod = z.infer<typeof changePeriodSchema>;
export const periodPeopleSchema = z.object({ people: z.array(z.string().trim().min(1).max(100)).max(50) });
