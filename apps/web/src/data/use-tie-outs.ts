import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { TieOutsDto } from '@wise-margin/contract';

import { getJson, queryText } from '../api/client.ts';

const ask = (company: number, query: { readonly asOf: string; readonly again?: 'yes' }, signal?: AbortSignal) =>
  getJson<TieOutsDto>(`/companies/${company}/tie-outs${queryText(query)}`, signal);

/** Pairs of figures that must agree, as of a month; they are run after each change of the ledger, and again when asked. */
export function useTieOuts(company: number, asOf: string) {
  const client = useQueryClient();
  const queryKey = ['tie-outs', company, asOf];
  const tieOuts = useQuery({ queryKey, queryFn: ({ signal }) => ask(company, { asOf }, signal) });
  const again = () => client.fetchQuery({ queryKey, queryFn: () => ask(company, { asOf, again: 'yes' }), staleTime: 0 });
  return { ...tieOuts, again };
}
