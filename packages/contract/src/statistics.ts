import { z } from 'zod';

import { periodKeySchema } from './common.ts';
import { aggregationSchema } from './companies.ts';

export const statisticsSchema = z
  .object({
    periods: z.array(periodKeySchema),
    series: z.array(
      z.object({
        name: z.string(),
        aggregation: aggregationSchema,
        /** one for each period, all slices together; null where there is none */
        values: z.array(z.number().nullable()),
      }),
    ),
  })
  .meta({ id: 'Statistics' });
export type StatisticsDto = z.infer<typeof statisticsSchema>;

/** What a statistics file would change, before it is imported: all that is new in it is listed. */
export const statisticsPreviewSchema = z
  .object({
    /** of the file; sent back to import just this one */
    fingerprint: z.string(),
    values: z.number().int(),
    replaced: z.number().int(),
    firstPeriod: periodKeySchema.nullable(),
    lastPeriod: periodKeySchema.nullable(),
    /** each with how it goes over several months: as before, or proposed for a new one */
    series: z.array(z.object({ name: z.string(), isNew: z.boolean(), aggregation: aggregationSchema })),
    /** columns that are no dimension of the ledger */
    newDimensions: z.array(z.string()),
    /** values the ledger does not have, each with those it may stand for */
    newValues: z.array(z.object({ dimension: z.string(), value: z.string(), near: z.array(z.string()) })),
  })
  .meta({ id: 'StatisticsPreview' });
export type StatisticsPreviewDto = z.infer<typeof statisticsPreviewSchema>;
export const statisticsAnswerSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('preview'), preview: statisticsPreviewSchema }),
  z.object({ kind: z.literal('imported'), statistics: statisticsSchema }),
]);
export type StatisticsAnswerDto = z.infer<typeof statisticsAnswerSchema>;
/** How a series goes over several months. */
export const seriesAggregationSchema = z.object({ series: z.string().min(1).max(200), aggregation: aggregationSchema });
/** Without a fingerprint a file is looked at alone; with one it is imported. */
export const statisticsImportSchema = z.object({ fingerprint: z.string().max(64).optional() });
