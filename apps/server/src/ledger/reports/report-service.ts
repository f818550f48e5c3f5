import type { REPORT_QUERIES } from '@wise-margin/contract';
import { type ReportDto, type ReportKey } from '@wise-margin/contract';
import type { z } from 'zod';

import type { Books } from '../../companies/index.ts';
import { accountDetailReport } from './account-detail.ts';
import { activityReport } from './activity.ts';
import { agingReport } from './aging.ts';
import { journalsReport } from './journals.ts';
import type { Report, ReportSources } from './report.ts';
import { trialBalanceReport } from './trial-balance.ts';

/** The choices each report takes. */
export type ReportQueries = { readonly [Key in ReportKey]: z.infer<(typeof REPORT_QUERIES)[Key]> };
type Makers = { readonly [Key in ReportKey]: (sources: ReportSources, books: Books, query: ReportQueries[Key]) => Promise<Report> };
const MAKERS: Makers = {
  'trial-balance': trialBalanceReport,
  'account-detail': accountDetailReport,
  journals: journalsReport,
  activity: activityReport,
  aging: agingReport,
};

/** Reports on the ledger: the same rows for the screen, files and scripts. */
export class ReportService {
  readonly #sources: ReportSources;

  constructor(sources: ReportSources) {
    this.#sources = sources;
  }

  /** @throws ProblemError 422 for choices that cannot be taken, with what to choose */
  async report<Key extends ReportKey>(
    companyId: number,
    key: Key,
    query: ReportQueries[Key],
  ): Promise<{ readonly books: Books; readonly report: Report }> {
    const books = await this.#sources.booksCache.of(companyId);
    const make: Makers[Key] = MAKERS[key];
    return { books, report: await make(this.#sources, books, query) };
  }

  /** A report with some of its rows. */
  async page<Key extends ReportKey>(
    companyId: number,
    key: Key,
    { after, limit, ...query }: ReportQueries[Key] & { readonly after: number; readonly limit: number },
  ): Promise<ReportDto> {
    const { report } = await this.report(companyId, key, query as unknown as ReportQueries[Key]);
    const { rows: rowsOf, parts: _, ...head } = report;
    const rows = await rowsOf(after, after + limit);
    return { ...head, rows, next: after + rows.length < report.count ? after + rows.length : null };
  }
}
