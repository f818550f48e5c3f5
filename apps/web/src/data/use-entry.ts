import { useQuery } from '@tanstack/react-query';
import type { EntryDto } from '@wise-margin/contract';

import { getJson } from '../api/client.ts';

export const useEntry = (company: number, entry: number | null) =>
  useQuery({
    queryKey: ['entry', company, entry],
    enabled: entry !== null,
    queryFn: ({ signal }) => getJson<EntryDto>(`/companies/${company}/entries/${entry}`, signal),
  });
