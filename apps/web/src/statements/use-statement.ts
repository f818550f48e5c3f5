import { keepPreviousData, useQuery } from '@tanstack/react-query';
import {
  unpackGrid,
  type BudgetDto,
  type FilterDto,
  type LineTrendDto,
  type PackedGrid,
  type StripDto,
  type TrailDto,
} from '@wise-margin/contract';
import { getJson, queryText } from '../api/client.ts';

/** What a statement is asked for; the address bar holds the same. */
export type StatementChoices = {
  readonly asOf: string;
  readonly budget: number | undefined;
  readonly filter: FilterDto;
};

/** The choices as the query string of the API. */
export function statementQuery({ asOf, budget, filter }: StatementChoices): Record<string, string | number | undefined> {
  return { asOf, budget, filter: Object.keys(filter).length > 0 ? JSON.stringify(filter) : undefined };
}

export const useStatement = (company: number, view: string, choices: StatementChoices) =>
  useQuery({
    queryKey: ['statement', company, view, choices],
    queryFn: async ({ signal }) =>
      unpackGrid(await getJson<PackedGrid>(`/companies/${company}/statements/${view}${queryText(statementQuery(choices))}`, signal)),
    placeholderData: keepPreviousData,
  });

export const useStrip = (company: number, choices: StatementChoices) =>
  useQuery({
    queryKey: ['strip', company, choices],
    queryFn: ({ signal }) => getJson<StripDto>(`/companies/${company}/period-strip${queryText(statementQuery(choices))}`, signal),
    placeholderData: keepPreviousData,
  });

export const useTrail = (
  company: number,
  view: string,
  choices: StatementChoices,
  place: { readonly line: string; readonly column: string } | null,
) =>
  useQuery({
    queryKey: ['trail', company, view, choices, place],
    enabled: place !== null,
    queryFn: ({ signal }) =>
      getJson<TrailDto>(`/companies/${company}/statements/${view}/trail${queryText({ ...statementQuery(choices), ...place })}`, signal),
  });

export const useBudgets = (company: number) =>
  useQuery({ queryKey: ['budgets', company], queryFn: ({ signal }) => getJson<BudgetDto[]>(`/companies/${company}/budgets`, signal) });

export const useLineTrend = (company: number, view: string, choices: StatementChoices, line: string | null) =>
  useQuery({
    queryKey: ['trail', company, view, choices, 'trend', line],
    enabled: line !== null,
    queryFn: ({ signal }) =>
      getJson<LineTrendDto>(
        `/companies/${company}/statements/${view}/line-trend${queryText({ ...statementQuery(choices), line: line ?? undefined })}`,
        signal,
      ),
  });
