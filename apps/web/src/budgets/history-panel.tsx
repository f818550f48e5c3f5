import { useInfiniteQuery } from '@tanstack/react-query';
import type { BudgetHistoryDto } from '@wise-margin/contract';
import { useState } from 'react';

import { getJson, queryText } from '../api/client.ts';
import { useCompany } from '../data/company.ts';
import { momentWords } from '../ui/date-words.ts';
import { Amount } from '../ui/figure.tsx';
import { CheckField } from '../ui/labeled-field.tsx';
import { Failure, Loading } from '../ui/states.tsx';
import { SidePanel } from './side-panel.tsx';

/** Everything that happened to a budget, the newest first: who, when, from, to. */
export function HistoryPanel({
  budget,
  account,
}: {
  readonly budget: number;
  /** that is looked at in the grid; its changes alone can be asked for */
  readonly account: string | null;
}) {
  const { id, exponent } = useCompany();
  const [isOfLine, setOfLine] = useState(false);
  const only = isOfLine ? account : null;
  const history = useInfiniteQuery({
    queryKey: ['budget-history', id, budget, only],
    initialPageParam: null as number | null,
    queryFn: ({ pageParam, signal }) =>
      getJson<BudgetHistoryDto>(
        `/companies/${id}/budgets/${budget}/history${queryText({ before: pageParam ?? undefined, account: only ?? undefined })}`,
        signal,
      ),
    getNextPageParam: (page) => page.next,
  });
  const items = history.data?.pages.flatMap((page) => page.items) ?? [];
  return (
    <SidePanel title="History">
      {account === null ? null : <CheckField label={`Only line ${account}`} checked={isOfLine} set={setOfLine} />}
      {history.data && items.length === 0 ? (
        <p className="mt-1 text-ink-soft">No changes to this line since the budget was created.</p>
      ) : null}
      {history.isError ? <Failure error={history.error} retry={() => void history.refetch()} /> : null}
      {!history.data && !history.isError ? <Loading what="the changes" /> : null}
      <ul>
        {items.map(({ id: record, at, actor, words, kind, isUndone, cells, more }) => (
          <li key={record} className="border-b border-hairline py-2">
            <p className={isUndone ? 'text-ink-soft line-through' : kind === 'milestone' ? 'font-semibold' : ''}>{words}</p>
            <p className="text-ink-soft">
              {actor}, {momentWords(at)}
              {isUndone ? ', undone' : ''}
            </p>
            {cells.length > 0 ? (
              <details>
                <summary className="cursor-pointer text-ink-soft">
                  {(cells.length + more).toLocaleString('en-US')} {cells.length + more === 1 ? 'amount' : 'amounts'}
                </summary>
                <table className="ledger-table compact-table w-full">
                  <thead className="sr-only">
                    <tr>
                      <th scope="col">Amount</th>
                      <th scope="col">From</th>
                      <th scope="col">To</th>
                    </tr>
                  </thead>
                  <tbody>
                    {cells.map((cell) => (
                      <tr key={`${cell.account} ${cell.slice} ${cell.month}`}>
                        <th scope="row" className="font-normal! whitespace-normal!">
                          {cell.account} {cell.slice} {cell.month}
                        </th>
                        <td className="figure text-ink-soft">
                          {cell.from === null ? 'new' : <Amount value={cell.from} exponent={exponent} />}
                        </td>
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
      {history.hasNextPage ? (
        <button type="button" className="link mt-2" disabled={history.isFetchingNextPage} onClick={() => void history.fetchNextPage()}>
          Show earlier changes
        </button>
      ) : null}
    </SidePanel>
  );
}
