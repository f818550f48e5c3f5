import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { Measure, MeasuresDto } from '@wise-margin/contract';

import { getJson, sendJson } from '../api/client.ts';

const FIRST: readonly Measure[] = ['cash', 'receivable_days', 'inventory_days', 'payable_days'];

/** The measures a person has on the overview, and the way to change them. */
export function useMeasures(company: number) {
  const client = useQueryClient();
  const path = `/companies/${company}/overview-measures`;
  const queryKey = ['overview-measures', company];
  const measures = useQuery({ queryKey, queryFn: ({ signal }) => getJson<MeasuresDto>(path, signal) });
  const choose = useMutation({
    // one after the other: the last one clicked is the last one saved
    scope: { id: path },
    mutationFn: (chosen: readonly Measure[]) => sendJson<MeasuresDto>('PUT', path, { measures: chosen }),
    // a change shows at once; a failure brings back what is kept
    onMutate: (chosen) => client.setQueryData(queryKey, { measures: [...chosen] }),
    onSettled: () => client.invalidateQueries({ queryKey }),
  });
  return { chosen: measures.data ? (measures.data.measures ?? FIRST) : null, choose };
}
