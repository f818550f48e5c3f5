import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { type BudgetDto, type DrillDownDto, type LineTrendDto, type PackedGrid, type StripDto } from '@wise-margin/contract';
import { unpackGrid } from '@wise-margin/presentation';

import { getJson, queryText } from '../api/client.ts';
import { type StatementChoices, statementQuery } from './statement-choices.ts';

/** A view of a company: its key. */
type ViewPlace = { readonly company: number; readonly view: string };

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

export const useDrillDown = (
  { company, view }: ViewPlace,
  choices: StatementChoices,
  place: { readonly line: string; readonly column: string } | null,
) =>
  useQuery({
    queryKey: ['drill-down', company, view, choices, place],
    enabled: place !== null,
    queryFn: ({ signal }) =>
      getJson<DrillDownDto>(
        `/companies/${company}/statements/${view}/drill-down${queryText({ ...statementQuery(choices), ...place })}`,
        signal,
      ),
  });

export const useBudgets = (company: number) =>
  useQuery({ queryKey: ['budgets', company], queryFn: ({ signal }) => getJson<BudgetDto[]>(`/companies/${company}/budgets`, signal) });

/** Lines by month of the year; without keys every line that is shown. */
export const useLineTrends = ({ company, view }: ViewPlace, choices: StatementChoices, lines: readonly string[] | null) =>
  useQuery({
    queryKey: ['drill-down', company, view, choices, 'trends', lines],
    queryFn: ({ signal }) =>
      getJson<LineTrendDto[]>(
        `/companies/${company}/statements/${view}/line-trends${queryText({ ...statementQuery(choices), lines: lines?.join(',') })}`,
        signal,
      ),
    placeholderData: keepPreviousData,
  });
