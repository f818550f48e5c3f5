import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { FilterDto, WorksheetDto } from '@wise-margin/contract';
import type { LineSet } from '@wise-margin/core';
import { useEffect, useMemo, useRef, useSyncExternalStore } from 'react';

import { getJson, queryText } from '../../api/client.ts';
import { ownSession } from './unsaved.ts';
import { WorksheetSession, type WorksheetSnapshot } from './worksheet-session.ts';

const DRAWN_FROM_BUDGETS = ['statement', 'strip', 'drill-down', 'budgets', 'budget-history', 'checks', 'comparison'];
const NOTHING_YET: WorksheetSnapshot | null = null;
const never = () => () => undefined;

/** Opens a budget to be worked on, and follows what is looked at. */
export function useWorksheet(
  company: number,
  budget: number,
  look: { readonly filter: FilterDto; readonly account: string | null; readonly lineSet: LineSet | null },
) {
  const client = useQueryClient();
  const opened = useQuery({
    queryKey: ['worksheet', company, budget],
    queryFn: ({ signal }) =>
      getJson<WorksheetDto>(`/companies/${company}/budgets/${budget}/worksheet${queryText({ session: ownSession() })}`, signal),
    staleTime: Infinity,
    gcTime: 0,
    refetchOnWindowFocus: false,
    refetchOnReconnect: false,
  });
  const { data } = opened;
  const session = useMemo(
    () =>
      data === undefined
        ? null
        : new WorksheetSession({
            company,
            worksheet: data,
            saved: () => void client.invalidateQueries({ predicate: ({ queryKey }) => DRAWN_FROM_BUDGETS.includes(String(queryKey[0])) }),
          }),
    [client, company, data],
  );
  const filterText = JSON.stringify(look.filter);
  const { account, lineSet } = look;
  const latest = useRef({ filterText, account, lineSet });
  useEffect(() => {
    latest.current = { filterText, account, lineSet };
    session?.look({ filter: JSON.parse(filterText) as FilterDto, account, lineSet });
  }, [session, filterText, account, lineSet]);
  useEffect(() => {
    const { filterText: text, ...rest } = latest.current;
    session?.start({ filter: JSON.parse(text) as FilterDto, ...rest });
    return () => session?.stop();
  }, [session]);
  const snapshot = useSyncExternalStore(session?.subscribe ?? never, session?.snapshot ?? (() => NOTHING_YET));
  return { opened, session, snapshot };
}
