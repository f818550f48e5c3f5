import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query';
import type { FilterDto, ReportDto, ReportKey } from '@wise-margin/contract';

import { getJson, queryText } from '../api/client.ts';
import { type ReportChoices, reportQuery } from './report-choices.ts';

const ROWS_A_PAGE = 1000;

/** The query of a report and of its files. */
export const queryOf = (report: ReportKey, choices: ReportChoices, filter: FilterDto): string =>
  queryText({ ...reportQuery(report, choices), filter });

/** A report, its rows loaded as they are scrolled to. */
export function useReport(company: number, report: ReportKey, query: string) {
  return useInfiniteQuery({
    queryKey: ['report', company, report, query],
    initialPageParam: 0,
    queryFn: ({ pageParam, signal }) =>
      getJson<ReportDto>(
        `/companies/${company}/reports/${report}${query}${query === '' ? '?' : '&'}after=${pageParam}&limit=${ROWS_A_PAGE}`,
        signal,
      ),
    getNextPageParam: (page) => page.next ?? undefined,
    placeholderData: keepPreviousData,
  });
}
