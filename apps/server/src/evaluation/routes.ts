import { benchmarkChangeSchema, benchmarkListSchema } from '@wise-margin/contract';

import type { Actor } from '../database/audit.ts';
import { type Route, route } from '../http/route.ts';
import type { BenchmarkStore } from './benchmark-store.ts';

/** Benchmarks of lines. */
export function benchmarkRoutes(benchmarks: BenchmarkStore, actor: Actor): readonly Route[] {
  const path = '/companies/:company/benchmarks';
  return [
    route({
      method: 'get',
      path,
      summary: 'Benchmarks by line',
      response: benchmarkListSchema,
      handle: ({ path: { company } }) => benchmarks.list(company),
    }),
    route({
      method: 'put',
      path,
      summary: 'Set or remove a benchmark',
      request: { body: benchmarkChangeSchema },
      response: benchmarkListSchema,
      handle: ({ path: { company }, body }) => benchmarks.change(company, body, actor),
    }),
  ];
}
