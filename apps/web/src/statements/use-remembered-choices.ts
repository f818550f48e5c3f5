import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { ViewListDto } from '@wise-margin/contract';
import { useEffect, useRef } from 'react';

import { sendJson } from '../api/client.ts';
import { choicesIn } from '../data/statement-choices.ts';

/** Keeps what is chosen for a view, so that the library opens it that way the next time. */
export function useRememberedChoices(company: number, view: string, search: URLSearchParams): void {
  const client = useQueryClient();
  const choices = JSON.stringify(choicesIn(search));
  const last = useRef(choices);
  const show = (): unknown =>
    client.setQueryData<ViewListDto>(['views', company], (views) =>
      views?.map((each) => (each.key === view ? { ...each, choices: JSON.parse(last.current) as Record<string, string> } : each)),
    );
  const { mutate } = useMutation({
    // one after the other: the last choice is the one that stays
    scope: { id: `choices ${company} ${view}` },
    mutationFn: (chosen: Record<string, string>) => sendJson('PUT', `/companies/${company}/views/${view}/choices`, chosen),
    // known here at once, for whoever leaves the view and comes back before they are saved; a list read meanwhile has older ones
    onMutate: show,
    onSuccess: show,
    onError: () => client.invalidateQueries({ queryKey: ['views', company] }),
  });
  useEffect(() => {
    // opening a view by its address is no choice
    if (last.current === choices) return;
    last.current = choices;
    mutate(JSON.parse(choices) as Record<string, string>);
  }, [choices, mutate]);
}
