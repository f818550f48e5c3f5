import { useQuery } from '@tanstack/react-query';
import type { ViewListDto } from '@wise-margin/contract';

import { getJson } from '../api/client.ts';

/** The views of the library, also for the names of places. */
export const useViews = (company: number) =>
  useQuery({ queryKey: ['views', company], queryFn: ({ signal }) => getJson<ViewListDto>(`/companies/${company}/views`, signal) });
