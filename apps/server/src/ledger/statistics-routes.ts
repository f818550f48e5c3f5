import { seriesAggregationSchema, statisticsAnswerSchema, statisticsImportSchema, statisticsSchema } from '@wise-margin/contract';

import type { Actor } from '../database/audit.ts';
import { type Route, route } from '../http/route.ts';
import { requiredUpload } from '../http/upload.ts';
import type { StatisticsService } from './statistics.ts';

const MOST_BYTES = 50 * 1024 ** 2;
type Services = { readonly statistics: StatisticsService; readonly directory: string; readonly actor: Actor };

/** Statistics by month, and a file of them, at most 50 MiB. */
export function statisticsRoutes({ statistics, directory, actor }: Services): readonly Route[] {
  const path = '/companies/:company/statistics';
  return [
    route({
      method: 'get',
      path,
      summary: 'Statistics by month',
      response: statisticsSchema,
      handle: ({ path: { company } }) => statistics.byMonth(company),
    }),
    route({
      method: 'post',
      path,
      summary: 'Preview a statistics file, or import it with the fingerprint of its preview',
      request: { form: { files: ['statistics'], directory, mostBytes: MOST_BYTES }, body: statisticsImportSchema },
      response: statisticsAnswerSchema,
      handle: ({ path: { company }, body, uploads }) => {
        const file = requiredUpload(uploads, 'statistics', 'Choose a statistics file.');
        return statistics.importFile(company, { path: file.path, fingerprint: body.fingerprint, actor });
      },
    }),
    route({
      method: 'put',
      path: `${path}/aggregation`,
      summary: 'Choose how a statistic goes over several months: sum, average or last month',
      request: { body: seriesAggregationSchema },
      response: statisticsSchema,
      handle: ({ path: { company }, body }) => statistics.setAggregation(company, body, actor),
    }),
  ];
}
