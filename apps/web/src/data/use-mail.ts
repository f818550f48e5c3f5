import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { MailDetailDto, MailIssue, MailListDto, MailListingDto, SetMailList } from '@wise-margin/contract';

import { getJson, queryText, sendJson } from '../api/client.ts';

/** Messages of a company, or of one issued pack; read again while some are on their way. */
export const useMail = (company: number, issue?: number) =>
  useQuery({
    queryKey: ['mail', company, issue ?? null],
    queryFn: ({ signal }) => getJson<MailListingDto>(`/companies/${company}/mail${queryText({ issue })}`, signal),
    refetchInterval: ({ state }) => (state.data?.messages.some(({ state: of }) => of === 'queued' || of === 'sending') ? 2000 : false),
  });

export const useMailDetail = (company: number, message: number | null) =>
  useQuery({
    queryKey: ['mail', company, 'message', message],
    enabled: message !== null,
    queryFn: ({ signal }) => getJson<MailDetailDto>(`/companies/${company}/mail/${message}`, signal),
  });

export const useMailLists = (company: number) =>
  useQuery({
    queryKey: ['mail-lists', company],
    queryFn: ({ signal }) => getJson<MailListDto[]>(`/companies/${company}/mail-lists`, signal),
  });

/** Mailing an issue, sending a failed message again, and keeping lists. */
export function useMailChanges(company: number) {
  const client = useQueryClient();
  const refresh = { onSuccess: () => client.invalidateQueries({ queryKey: ['mail', company] }) };
  return {
    send: useMutation({
      mutationFn: ({ issue, mail }: { readonly issue: number; readonly mail: MailIssue }) =>
        sendJson<MailListingDto>('POST', `/companies/${company}/pack-issues/${issue}/mail`, mail),
      ...refresh,
    }),
    again: useMutation({
      mutationFn: (message: number) => sendJson<MailDetailDto>('POST', `/companies/${company}/mail/${message}/again`, {}),
      ...refresh,
    }),
    setList: useMutation({
      mutationFn: (list: SetMailList) => sendJson<MailListDto[]>('PUT', `/companies/${company}/mail-lists`, list),
      onSuccess: (lists) => client.setQueryData(['mail-lists', company], lists),
    }),
  };
}
