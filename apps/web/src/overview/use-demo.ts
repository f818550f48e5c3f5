import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { DemoDto } from '@wise-margin/contract';
import { useEffect, useRef } from 'react';
import { useNavigate } from 'react-router';

import { getJson, sendDelete, sendJson } from '../api/client.ts';
import { companiesQuery } from '../data/company.ts';

const QUERY = ['demo'];
const AGAIN_AFTER = 700;

/** The demo companies: adding them, which takes some seconds and then opens the first, and removing them. */
export function useDemo() {
  const client = useQueryClient();
  const navigate = useNavigate();
  const demo = useQuery({
    queryKey: QUERY,
    queryFn: ({ signal }) => getJson<DemoDto>('/demo-companies', signal),
    refetchInterval: ({ state }) => (state.data?.state === 'making' ? AGAIN_AFTER : false),
  });
  const add = useMutation({
    mutationFn: () => sendJson<DemoDto>('POST', '/demo-companies', {}),
    onSuccess: (demo) => client.setQueryData(QUERY, demo),
    onError: () => client.invalidateQueries({ queryKey: QUERY }),
  });
  const remove = useMutation({
    mutationFn: () => sendDelete('/demo-companies'),
    onSuccess: async () => {
      localStorage.removeItem('wm.company');
      // the way in goes by the list, which must not name the removed companies any more
      await client.fetchQuery({ ...companiesQuery, staleTime: 0 });
      await navigate('/');
      client.removeQueries({ predicate: ({ queryKey }) => queryKey[0] !== companiesQuery.queryKey[0] });
    },
  });
  const state = demo.data?.state;
  const before = useRef(state);
  const first = demo.data?.companies[0]?.id;
  useEffect(() => {
    const isDone = before.current === 'making' && state === 'made' && first !== undefined;
    before.current = state;
    if (isDone) void client.invalidateQueries({ queryKey: ['companies'] }).then(() => navigate(`/c/${first}`));
  }, [state, first, client, navigate]);
  return { demo, add, remove };
}
