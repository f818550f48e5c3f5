import { z } from 'zod';

/** A benchmark of a line: percentages as fractions, other ratios in their own unit. */
export const benchmarkSchema = z
  .object({ line: z.string().max(300), kind: z.enum(['industry', 'target']), value: z.number().min(-1e6).max(1e6) })
  .meta({ id: 'Benchmark' });
export const benchmarkListSchema = z.array(benchmarkSchema).meta({ id: 'Benchmarks' });
export type BenchmarkDto = z.infer<typeof benchmarkSchema>;
/** A value of null takes the benchmark away. */
export const benchmarkChangeSchema = benchmarkSchema.extend({ value: z.number().min(-1e6).max(1e6).nullable() });
export type BenchmarkChange = z.infer<typeof benchmarkChangeSchema>;
