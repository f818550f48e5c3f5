import { z } from 'zod';

import { scopeSchema } from './common.ts';

/** A benchmark of a line: percentages as fractions, other ratios in their own unit. */
export const benchmarkSchema = z
  .object({ line: z.string().max(300), kind: z.enum(['industry', 'target']), value: z.number().min(-1e6).max(1e6) })
  .meta({ id: 'Benchmark' });
export const benchmarkListSchema = z
  .array(
    benchmarkSchema.extend({
      /** whom it is kept for */
      scope: scopeSchema,
      /** names of the companies with their own for the line */
      changedBy: z.array(z.string()),
    }),
  )
  .meta({ id: 'Benchmarks' });
export type BenchmarkDto = z.infer<typeof benchmarkListSchema>[number];
/** A value of null takes the benchmark away; a company without its own has the one for all companies. */
export const benchmarkChangeSchema = benchmarkSchema.extend({
  value: z.number().min(-1e6).max(1e6).nullable(),
  scope: scopeSchema.default('company'),
});
export type BenchmarkChange = z.input<typeof benchmarkChangeSchema>;
