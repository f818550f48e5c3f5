import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type {
  NewPack,
  PackChange,
  PackChecklistDto,
  PackDto,
  PackIssueDto,
  PackListDto,
  PackMonthChange,
  PackMonthDto,
  PackPageDto,
  PackPreviewDto,
  PackPreviewRequest,
} from '@wise-margin/contract';

import { askJson, getJson, queryText, sendDelete, sendJson } from '../api/client.ts';

/** A pack of a company. */
export type PackPlace = { readonly company: number; readonly pack: string };
const monthPath = ({ company, pack }: PackPlace, month: string): string => `/companies/${company}/packs/${pack}/months/${month}`;

export const usePacks = (company: number, month: string | null) =>
  useQuery({
    queryKey: ['packs', company, month],
    queryFn: ({ signal }) => getJson<PackListDto>(`/companies/${company}/packs${queryText({ month: month ?? undefined })}`, signal),
  });

export const usePack = ({ company, pack }: PackPlace) =>
  useQuery({
    queryKey: ['pack', company, pack],
    queryFn: ({ signal }) => getJson<PackDto>(`/companies/${company}/packs/${pack}`, signal),
  });

/** Saving, creating and removing designs. */
export function usePackChanges(company: number) {
  const client = useQueryClient();
  const after = { onSuccess: () => client.invalidateQueries({ queryKey: ['packs', company] }) };
  return {
    save: useMutation({
      mutationFn: ({ pack, change }: { readonly pack: string; readonly change: PackChange }) =>
        sendJson<PackDto>('PUT', `/companies/${company}/packs/${pack}`, change),
      onSuccess: (saved) => {
        client.setQueryData(['pack', company, saved.key], saved);
        return client.invalidateQueries({ queryKey: ['packs', company] });
      },
    }),
    create: useMutation({ mutationFn: (pack: NewPack) => sendJson<PackDto>('POST', `/companies/${company}/packs`, pack), ...after }),
    remove: useMutation({
      mutationFn: (pack: string) => sendDelete(`/companies/${company}/packs/${pack}`),
      onSuccess: async (_, pack) => {
        client.removeQueries({ queryKey: ['pack', company, pack] });
        await client.invalidateQueries({ queryKey: ['packs', company] });
      },
    }),
  };
}

/** A pack in a month: state, meeting day, texts, issues; and the way to change them. */
export function usePackMonth(place: PackPlace, month: string) {
  const client = useQueryClient();
  const queryKey = ['pack-month', place.company, place.pack, month];
  const query = useQuery({ queryKey, queryFn: ({ signal }) => getJson<PackMonthDto>(monthPath(place, month), signal) });
  const change = useMutation({
    mutationFn: (changed: PackMonthChange) => sendJson<PackMonthDto>('PUT', monthPath(place, month), changed),
    // one after the other: each starts from the version the one before it left
    scope: { id: queryKey.join(' ') },
    onSuccess: async (saved) => {
      client.setQueryData(queryKey, saved);
      await client.invalidateQueries({ queryKey: ['packs', place.company] });
    },
  });
  const issue = useMutation({
    mutationFn: () => sendJson<PackIssueDto>('POST', `${monthPath(place, month)}/issues`, {}),
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey });
      await client.invalidateQueries({ queryKey: ['packs', place.company] });
    },
  });
  return { ...query, change, issue };
}

export const usePackChecklist = (place: PackPlace, month: string) =>
  useQuery({
    queryKey: ['pack-checklist', place.company, place.pack, month],
    queryFn: ({ signal }) => getJson<PackChecklistDto>(`${monthPath(place, month)}/checklist`, signal),
    staleTime: 0,
    gcTime: 0,
  });

/** The pages of a pack as it is on screen; the ones before stay until the new ones are there. */
export const usePackPreview = (company: number, request: PackPreviewRequest | null) =>
  useQuery({
    queryKey: ['pack-preview', company, request],
    enabled: request !== null,
    queryFn: ({ signal }) => askJson<PackPreviewDto>(`/companies/${company}/pack-preview`, request, signal),
    placeholderData: keepPreviousData,
    gcTime: 60_000,
  });

export const usePackIssue = (company: number, issue: number) =>
  useQuery({
    queryKey: ['pack-issue', company, issue],
    queryFn: ({ signal }) => getJson<PackIssueDto>(`/companies/${company}/pack-issues/${issue}`, signal),
  });

export const useIssuedPages = (company: number, issue: number, slice: string) =>
  useQuery({
    queryKey: ['pack-issue', company, issue, 'pages', slice],
    queryFn: ({ signal }) =>
      getJson<{ readonly pages: PackPageDto[]; readonly logo: string | null }>(
        `/companies/${company}/pack-issues/${issue}/pages${queryText({ slice })}`,
        signal,
      ),
  });

/** Where a pack's file is downloaded from, as it is now. */
export const packFileAddress = (
  place: PackPlace,
  { month, format, slice }: { readonly month: string; readonly format: string; readonly slice: string },
): string => `/api${monthPath(place, month)}/export.${format}${queryText({ slice })}`;
/** Where a file of an issue is downloaded from. */
export const issueFileAddress = (
  company: number,
  { issue, format, slice }: { readonly issue: number; readonly format: string; readonly slice: string },
): string => `/api/companies/${company}/pack-issues/${issue}/export.${format}${queryText({ slice })}`;

/** Lets the server get the packs of a month ready, while somebody looks at the list of them. */
export function useReadyForPages(company: number, month: string | null): void {
  useQuery({
    enabled: month !== null,
    queryKey: ['ready-for-pages', company, month],
    queryFn: () => sendJson<null>('POST', `/companies/${company}/pack-preview/ready`, { month }),
    staleTime: 5 * 60_000,
    retry: false,
  });
}
