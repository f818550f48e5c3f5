import { REPORT_PAGE_QUERIES, REPORT_QUERIES, type ReportKey, REPORTS, reportSchema } from '@wise-margin/contract';
import type { z } from 'zod';

import { download, type Route, route } from '../../http/route.ts';
import type { WorkPool } from '../../work/work-pool.ts';
import { REPORT_FORMATS } from './report-files.ts';
import type { ReportQueries, ReportService } from './report-service.ts';

const WORDS: Readonly<Record<ReportKey, string>> = {
  'trial-balance': 'Trial balance over a range',
  'account-detail': 'Account detail with running balances',
  journals: 'Source journals with totals',
  activity: 'Sales by customer or purchases by vendor',
  aging: 'Receivables or payables by age',
};
type PageQuery = ReportQueries[ReportKey] & { readonly after: number; readonly limit: number };

/** Reports on the ledger, a page of rows at a time, and as files. */
export const reportRoutes = ({ reports, work }: { readonly reports: ReportService; readonly work: WorkPool }): readonly Route[] =>
  REPORTS.flatMap((key) => [
    route({
      method: 'get',
      path: `/companies/:company/reports/${key}`,
      summary: WORDS[key],
      request: { query: REPORT_PAGE_QUERIES[key] as unknown as z.ZodType<PageQuery> },
      response: reportSchema,
      handle: ({ path, query }) => reports.page(path.company, key, query),
    }),
    ...REPORT_FORMATS.map(({ extension, type, write }) =>
      download({
        method: 'get',
        path: `/companies/:company/reports/${key}/export.${extension}`,
        summary: `${WORDS[key]} as ${extension.toUpperCase()}`,
        request: { query: REPORT_QUERIES[key] as unknown as z.ZodType<ReportQueries[ReportKey]> },
        type,
        handle: async ({ path, query, signal }) => {
          const { books, report } = await reports.report(path.company, key, query);
          const company = { name: books.name, exponent: books.currency.exponent };
          return { content: await write(report, company, { pool: work, signal }), name: `${key}.${extension}` };
        },
      }),
    ),
  ]);
