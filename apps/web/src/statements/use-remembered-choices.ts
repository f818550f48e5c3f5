import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { ViewListDto } from '@wise-margin/contract';
import { useEffect, useRef } from 'react';

import { sendJson } from '../api/client.ts';
import { choicesIn } from '../data/statement-choices.ts';

type Chosen = { readonly company: number; readonly choices: string };

/** Keeps what is chosen for a view in a company, so that the library opens it that way the next time. */
export function useRememberedChoices(company: number, view: string, search: URLSearchParams): void {
  const client = useQueryClient();
  const choices = JSON.stringify(choicesIn(search));
  const seen = useRef<Chosen>({ company, choices });
  /** by company, what was chosen last: the answer to an earlier choice may come after it */
  const chosen = useRef(new Map<number, string>());
  const show = (of: number): unknown =>
    client.setQueryData<ViewListDto>(['views', of], (views) =>
      views?.map((each) => (each.key === view ? { ...each, choices: readChosen(chosen.current.get(of)!) } : each)),
    );
  const { mutate } = useMutation({
    // one after the other: the last choice is the one that stays
    scope: { id: `choices ${company} ${view}` },
    mutationFn: ({ company: of, choices: those }: Chosen) => sendJson('PUT', `/companies/${of}/views/${view}/choices`, readChosen(those)),
    // known here at once, for whoever leaves the view and comes back before they are saved; a list read meanwhile has older ones
    onMutate: ({ company: of }) => show(of),
    onSuccess: (_saved, { company: of }) => show(of),
    onError: (_error, { company: of }) => client.invalidateQueries({ queryKey: ['views', of] }),
  });
  useEffect(() => {
    const before = seen.current;
    seen.current = { company, choices };
    // opening a view by its address is no choice, and neither is going to another company
    if (before.company !== company || before.choices === choices) return;
    chosen.current.set(company, choices);
    mutate({ company, choices });
  }, [company, choices, mutate]);
}

const readChosen = (choices: string): Record<string, string> => JSON.parse(choices) as Record<string, string>;
