import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { CheckItemDto, CheckListDto } from '@wise-margin/contract';
import { useState } from 'react';

import { getJson, sendJson } from '../api/client.ts';
import { useCompany } from '../data/company.ts';
import { Failure, Loading } from '../ui/states.tsx';
import { SidePanel } from './side-panel.tsx';

export const useBudgetChecks = (company: number, budget: number) =>
  useQuery({
    queryKey: ['checks', company, budget],
    queryFn: ({ signal }) => getJson<CheckListDto>(`/companies/${company}/budgets/${budget}/checks`, signal),
  });

/** Budget checks: each item leads to its line and can be explained. */
export function ChecksPanel({
  budget,
  locked,
  go,
}: {
  readonly budget: number;
  readonly locked: boolean;
  readonly go: (account: string, slice: CheckItemDto['slice']) => void;
}) {
  const { id } = useCompany();
  const client = useQueryClient();
  const list = useBudgetChecks(id, budget);
  const answer = useMutation({
    mutationFn: (given: { readonly key: string; readonly text: string }) =>
      sendJson<CheckListDto>('POST', `/companies/${id}/budgets/${budget}/explanations`, given),
    onSuccess: (made) => client.setQueryData(['checks', id, budget], made),
  });
  const { data } = list;
  return (
    <SidePanel title="Budget checks">
      {list.isError ? <Failure error={list.error} retry={() => void list.refetch()} /> : null}
      {!data && !list.isError ? <Loading what="the findings" /> : null}
      {data ? (
        <p className="mt-1 text-ink-soft">
          {data.items.length === 0
            ? 'No items. Every line is in line with prior years, and every account with history is budgeted.'
            : `${data.items.length} ${data.items.length === 1 ? 'item' : 'items'}, ${data.open} open. Largest effect first.`}
        </p>
      ) : null}
      {answer.isError ? (
        <p role="alert" className="text-brick">
          {answer.error.message}
        </p>
      ) : null}
      <ul>
        {data?.items.map((item) => (
          <Finding
            key={item.key}
            item={item}
            locked={locked}
            go={() => go(item.account, item.slice)}
            keep={(text) => answer.mutate({ key: item.key, text })}
          />
        ))}
      </ul>
    </SidePanel>
  );
}

function Finding({
  item,
  locked,
  go,
  keep,
}: {
  readonly item: CheckItemDto;
  readonly locked: boolean;
  readonly go: () => void;
  readonly keep: (text: string) => void;
}) {
  const [text, setText] = useState<string | null>(null);
  const { account, name, slice, words, answer } = item;
  const place = slice && Object.entries(slice).map(([dimension, value]) => value || `no ${dimension}`);
  const line = `${account} ${name}${place ? `, ${place.join(', ')}` : ''}`;
  return (
    <li className="border-b border-hairline py-2">
      <button type="button" className="link text-left font-semibold" onClick={go}>
        {line}
      </button>
      <p>{words}.</p>
      {answer && text === null ? (
        <p className="text-ink-soft">
          Explained by {answer.actor}: {answer.text}
        </p>
      ) : null}
      {locked ? null : text === null ? (
        <span className="flex gap-3">
          <button type="button" className="link" onClick={() => setText(answer?.text ?? '')}>
            {answer ? 'Edit explanation' : 'Explain'}
          </button>
          {answer ? (
            <button type="button" className="link" onClick={() => keep('')}>
              Remove explanation
            </button>
          ) : null}
        </span>
      ) : (
        <form
          className="mt-1 flex gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            keep(text);
            setText(null);
          }}
        >
          <input
            autoFocus
            aria-label={`Explanation for ${line}`}
            className="field min-w-0 flex-1 py-0.5 text-[13px]"
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          <button type="submit" className="link">
            Save
          </button>
        </form>
      )}
    </li>
  );
}
