import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { LineSet } from '@wise-margin/core';
import type { DeskDto, FilterDto } from '@wise-margin/contract';
import { useEffect, useMemo, useRef, useSyncExternalStore } from 'react';
import { getJson, queryText } from '../../api/client.ts';
import { DeskSession, type DeskSnapshot } from './worksheet-session.ts';
import { ownSession } from './unsaved.ts';

const DRAWN_FROM_BUDGETS = ['statement', 'strip', 'trail', 'budgets', 'budget-history', 'sanity', 'comparison'];
const NOTHING_YET: DeskSnapshot | null = null;
const never = () => () => undefined;

/** Opens a budget to be worked on, and follows what is looked at. */
export function useDesk(
  company: number,
  budget: number,
  look: { readonly filter: FilterDto; readonly account: string | null; readonly lineSet: LineSet | null },
) {
  const client = useQueryClient();
  const opened = useQuery({
    queryKey: ['desk', company, budget],
    queryFn: ({ signal }) =>
      getJson<DeskDto>(`/companies/${company}/budgets/${budget}/desk${queryText({ session: ownSession() })}`, signal),
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
        : new DeskSession({
            company,
            desk: data,
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
