import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { ScheduleChange, ScheduleListDto } from '@wise-margin/contract';

import { getJson, sendDelete, sendForm, sendJson } from '../api/client.ts';

/** Schedules of a company with their next runs, and the ways to change them. */
export function useSchedules(company: number) {
  const client = useQueryClient();
  const queryKey = ['schedules', company];
  const path = `/companies/${company}/schedules`;
  const query = useQuery({ queryKey, queryFn: ({ signal }) => getJson<ScheduleListDto>(path, signal) });
  const after = { onSuccess: (list: ScheduleListDto) => client.setQueryData(queryKey, list) };
  return {
    ...query,
    save: useMutation({
      mutationFn: ({ id, change }: { readonly id: number | null; readonly change: ScheduleChange }) =>
        id === null ? sendJson<ScheduleListDto>('POST', path, change) : sendJson<ScheduleListDto>('PUT', `${path}/${id}`, change),
      ...after,
    }),
    runNow: useMutation({
      mutationFn: (id: number) => sendJson<ScheduleListDto>('POST', `${path}/${id}/runs`, {}),
      onSuccess: async (list) => {
        client.setQueryData(queryKey, list);
        await client.invalidateQueries({ queryKey: ['mail', company] });
      },
    }),
    remove: useMutation({
      mutationFn: (id: number) => sendDelete(`${path}/${id}`),
      onSuccess: () => client.invalidateQueries({ queryKey }),
    }),
    importHolidays: useMutation({
      mutationFn: (file: File) => {
        const form = new FormData();
        form.set('file', file);
        return sendForm<ScheduleListDto>(`/companies/${company}/holidays`, form, 'PUT');
      },
      ...after,
    }),
  };
}
