import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { CompanyRunDto, CompanyRunRequest } from '@wise-margin/contract';

import { getJson, sendJson } from '../api/client.ts';

/** Runs over several companies, the latest first; read again while one is under way. */
export function useCompanyRuns() {
  const client = useQueryClient();
  const queryKey = ['company-runs'];
  return {
    ...useQuery({
      queryKey,
      queryFn: ({ signal }) => getJson<CompanyRunDto[]>('/company-runs', signal),
      refetchInterval: ({ state }) => (state.data?.some(({ finishedAt }) => finishedAt === null) ? 1000 : false),
    }),
    start: useMutation({
      mutationFn: (request: CompanyRunRequest) => sendJson<CompanyRunDto>('POST', '/company-runs', request),
      onSuccess: () => client.invalidateQueries({ queryKey }),
    }),
  };
}
