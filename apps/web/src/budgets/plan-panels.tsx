import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { BudgetChangeDto, SanityItemDto, SanityListDto } from '@wise-margin/contract';
import { useState } from 'react';
import { getJson, sendJson } from '../api/client.ts';
import { useCompany } from '../shell/company.ts';
import { Amount } from '../ui/figure.tsx';
import { Failure, Loading } from '../ui/states.tsx';
import { SidePanel } from './side-panel.tsx';

export const useSanity = (company: number, budget: number) =>
  useQuery({
    queryKey: ['sanity', company, budget],
    queryFn: ({ signal }) => getJson<SanityListDto>(`/companies/${company}/budgets/${budget}/sanity`, signal),
  });

/** What of the budget wants a second look: each finding leads to its line and takes an answer. */
export function SanityPanel({
  budget,
  locked,
  go,
}: {
  readonly budget: number;
  readonly locked: boolean;
  readonly go: (account: string, slice: SanityItemDto['slice']) => void;
}) {
  const { id } = useCompany();
  const client = useQueryClient();
  const list = useSanity(id, budget);
  const answer = useMutation({
    mutationFn: (given: { readonly key: string; readonly text: string }) =>
      sendJson<SanityListDto>('POST', `/companies/${id}/budgets/${budget}/answers`, given),
    onSuccess: (made) => client.setQueryData(['sanity', id, budget], made),
  });
  const { data } = list;
  return (
    <SidePanel title="Sanity list">
      {list.isError ? <Failure error={list.error} retry={() => void list.refetch()} /> : null}
      {!data && !list.isError ? <Loading what="the findings" /> : null}
      {data ? (
        <p className="mt-1 text-ink-soft">
          {data.items.length === 0
            ? 'Every line is like the years before it, and every account with history is budgeted.'
            : `${data.items.length} ${data.items.length === 1 ? 'finding' : 'findings'}, ${data.open} without an answer. The largest effect comes first.`}
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
  readonly item: SanityItemDto;
  readonly locked: boolean;
  readonly go: () => void;
  readonly keep: (text: string) => void;
}) {
  const [text, setText] = useState<string | null>(null);
  const { account, name, slice, words, answer } = item;
  const place = slice && Object.entries(slice).map(([dimension, value]) => value || `no ${dimension} given`);
  const line = `${account} ${name}${place ? `, ${place.join(', ')}` : ''}`;
  return (
    <li className="border-b border-hairline py-2">
      <button type="button" className="link text-left font-semibold" onClick={go}>
        {line}
      </button>
      <p>{words}.</p>
      {answer && text === null ? (
        <p className="text-ink-soft">
          Answered by {answer.actor}: {answer.text}
        </p>
      ) : null}
      {locked ? null : text === null ? (
        <span className="flex gap-3">
          <button type="button" className="link" onClick={() => setText(answer?.text ?? '')}>
            {answer ? 'Change the answer' : 'Answer'}
          </button>
          {answer ? (
            <button type="button" className="link" onClick={() => keep('')}>
              Take it back
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
            aria-label={`Answer for ${line}`}
            className="field min-w-0 flex-1 py-0.5 text-[13px]"
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          <button type="submit" className="link">
            Keep
          </button>
        </form>
      )}
    </li>
  );
}

/** Every change, the newest first: who, when, from, to. */
export function HistoryPanel({ budget }: { readonly budget: number }) {
  const { id, exponent } = useCompany();
  const history = useQuery({
    queryKey: ['budget-history', id, budget],
    queryFn: ({ signal }) => getJson<BudgetChangeDto[]>(`/companies/${id}/budgets/${budget}/history`, signal),
  });
  return (
    <SidePanel title="History">
      {history.isError ? <Failure error={history.error} retry={() => void history.refetch()} /> : null}
      {!history.data && !history.isError ? <Loading what="the changes" /> : null}
      {history.data?.length === 0 ? <p className="mt-1 text-ink-soft">Nothing was changed since it was made.</p> : null}
      {history.data?.length === 200 ? <p className="mt-1 text-ink-soft">The newest 200 changes.</p> : null}
      <ul>
        {history.data?.map(({ id: change, at, actor, words, isTakenBack, cells, more }) => (
          <li key={change} className="border-b border-hairline py-2">
            <p className={isTakenBack ? 'text-ink-soft line-through' : ''}>{words}</p>
            <p className="text-ink-soft">
              {actor}, {new Date(at).toLocaleString('en-US', { dateStyle: 'medium', timeStyle: 'short' })}
              {isTakenBack ? ', taken back' : ''}
            </p>
            {cells.length > 0 ? (
              <details>
                <summary className="cursor-pointer text-ink-soft">
                  {(cells.length + more).toLocaleString('en-US')} {cells.length + more === 1 ? 'figure' : 'figures'}
                </summary>
                <table className="ledger-table w-full">
                  <tbody>
                    {cells.map((cell) => (
                      <tr key={`${cell.account} ${cell.slice} ${cell.month}`}>
                        <th scope="row" className="font-normal!">
                          {cell.account} {cell.slice} {cell.month}
                        </th>
                        <td className="figure">{cell.from === null ? 'new' : <Amount value={cell.from} exponent={exponent} />}</td>
                        <td className="figure">
                          <Amount value={cell.to} exponent={exponent} />
                        </td>
                      </tr>
                    ))}
                  </tbody>
                </table>
                {more > 0 ? <p className="text-ink-soft">and {more.toLocaleString('en-US')} more.</p> : null}
              </details>
            ) : null}
          </li>
        ))}
      </ul>
    </SidePanel>
  );
}
