import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { SearchDto } from '@wise-margin/contract';

import { getJson, queryText } from '../api/client.ts';

/** How often an index that is still being built is asked again. */
const MILLISECONDS_BETWEEN = 1000;

/** What a text can mean in a company; the hits of the text before stay until those of the next are there. */
export const useSearchHits = (
  company: number,
  { text, asOf, isOpen }: { readonly text: string; readonly asOf: string | null; readonly isOpen: boolean },
) =>
  useQuery({
    queryKey: ['search', company, text, asOf],
    enabled: isOpen,
    queryFn: ({ signal }) => getJson<SearchDto>(`/companies/${company}/search${queryText({ q: text, asOf: asOf ?? undefined })}`, signal),
    placeholderData: keepPreviousData,
    staleTime: 0,
    refetchInterval: ({ state }) => ((state.data?.pending ?? 0) > 0 ? MILLISECONDS_BETWEEN : false),
  });
