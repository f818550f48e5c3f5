import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { CompanyGroupChange, CompanyGroupDto, ExchangeRatesDto, PackedGrid } from '@wise-margin/contract';
import { unpackGrid } from '@wise-margin/presentation';

import { getJson, queryText, sendDelete, sendJson } from '../api/client.ts';

/** What a combined statement is asked for, by the names of its query. */
export type CombinedChoices = Readonly<Record<string, string | undefined>> & { readonly asOf: string };

/** Groups of companies, and the ways to change them. */
export function useCompanyGroups() {
  const client = useQueryClient();
  const queryKey = ['company-groups'];
  const refresh = async () => {
    await client.invalidateQueries({ queryKey });
    await client.invalidateQueries({ queryKey: ['combined'] });
  };
  return {
    ...useQuery({ queryKey, queryFn: ({ signal }) => getJson<CompanyGroupDto[]>('/company-groups', signal) }),
    create: useMutation({
      mutationFn: (change: CompanyGroupChange) => sendJson<CompanyGroupDto>('POST', '/company-groups', change),
      onSuccess: refresh,
    }),
    change: useMutation({
      mutationFn: ({ id, ...change }: CompanyGroupChange & { readonly id: number; readonly version: number }) =>
        sendJson<CompanyGroupDto>('PUT', `/company-groups/${id}`, change),
      onSuccess: refresh,
    }),
    remove: useMutation({ mutationFn: (id: number) => sendDelete(`/company-groups/${id}`), onSuccess: refresh }),
  };
}

/** Where a combined statement is in the API. */
export const combinedPath = (group: number, view: string): string => `/company-groups/${group}/statements/${view}`;

export const useCombined = (group: number, view: string, choices: CombinedChoices) =>
  useQuery({
    queryKey: ['combined', group, view, choices],
    queryFn: async ({ signal }) => unpackGrid(await getJson<PackedGrid>(`${combinedPath(group, view)}${queryText(choices)}`, signal)),
    placeholderData: keepPreviousData,
  });

/** Rates between two currencies, and the way to set them. */
export function useExchangeRates(from: string, to: string) {
  const client = useQueryClient();
  const path = `/exchange-rates/${from}/${to}`;
  const queryKey = ['exchange-rates', from, to];
  return {
    ...useQuery({ queryKey, queryFn: ({ signal }) => getJson<ExchangeRatesDto>(path, signal) }),
    set: useMutation({
      mutationFn: (text: string) => sendJson<ExchangeRatesDto>('PUT', path, { text }),
      onSuccess: async (rates) => {
        client.setQueryData(queryKey, rates);
        await client.invalidateQueries({ queryKey: ['combined'] });
      },
    }),
  };
}
