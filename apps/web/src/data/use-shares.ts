import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { CreatedPackShare, NewPackShare, PackShareDto, SharedFigureDto, SharedPackDto } from '@wise-margin/contract';

import { getJson, queryText, sendDelete, sendJson } from '../api/client.ts';

/** Links to an issued pack, and the ways to make and withdraw them. */
export function useShares(company: number, issue: number) {
  const client = useQueryClient();
  const queryKey = ['shares', company, issue];
  const path = `/companies/${company}/pack-issues/${issue}/shares`;
  const refresh = { onSuccess: () => client.invalidateQueries({ queryKey }) };
  return {
    ...useQuery({ queryKey, queryFn: ({ signal }) => getJson<PackShareDto[]>(path, signal) }),
    create: useMutation({ mutationFn: (share: NewPackShare) => sendJson<CreatedPackShare>('POST', path, share), ...refresh }),
    revoke: useMutation({ mutationFn: (id: number) => sendDelete(`${path}/${id}`), ...refresh }),
  };
}

export const sharedFile = (token: string, slice: string): string =>
  `/api/shared/${encodeURIComponent(token)}/export.pdf${queryText({ slice })}`;

export const useSharedPack = (token: string, slice: string | undefined) =>
  useQuery({
    queryKey: ['shared', token, slice ?? null],
    queryFn: ({ signal }) => getJson<SharedPackDto>(`/shared/${encodeURIComponent(token)}${queryText({ slice })}`, signal),
    retry: false,
    staleTime: Infinity,
  });

export const useSharedFigure = (
  token: string,
  place: { readonly slice: string; readonly section: string; readonly line: string; readonly column: string } | null,
) =>
  useQuery({
    queryKey: ['shared', token, 'figure', place],
    enabled: place !== null,
    retry: false,
    queryFn: ({ signal }) => getJson<SharedFigureDto>(`/shared/${encodeURIComponent(token)}/figure${queryText(place ?? {})}`, signal),
  });
