import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { AccountListDto, ImportDto } from '@wise-margin/contract';

import { getJson } from '../api/client.ts';

export const useImports = (company: number) =>
  useQuery({ queryKey: ['imports', company], queryFn: ({ signal }) => getJson<ImportDto[]>(`/companies/${company}/imports`, signal) });

/** An import, asked for again while it is checked or posted. */
export const useImport = (id: number) =>
  useQuery({
    queryKey: ['import', id],
    queryFn: ({ signal }) => getJson<ImportDto>(`/imports/${id}`, signal),
    refetchInterval: ({ state }) => (state.data?.state === 'checking' || state.data?.state === 'posting' ? 300 : false),
  });

export const useAccounts = (company: number, year: number | undefined) =>
  useQuery({
    queryKey: ['accounts', company, year],
    enabled: year !== undefined,
    queryFn: ({ signal }) => getJson<AccountListDto>(`/companies/${company}/accounts?year=${year}`, signal),
    placeholderData: keepPreviousData,
  });
