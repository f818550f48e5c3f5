import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import type { EntryLinesDto } from '@wise-margin/contract';
import { formatAmount, type Minor } from '@wise-margin/core';
import { useEffect, useRef, useState } from 'react';

import { getJson, queryText } from '../api/client.ts';
import { useCompany } from '../data/company.ts';
import { dateWords } from '../ui/date-words.ts';
import { Amount } from '../ui/figure.tsx';
import { Failure, Loading } from '../ui/states.tsx';
import type { AccountStep as Step } from './drill-down-address.ts';

/** Lines of an account over a span, loaded as they are scrolled to. */
const linesQuery = ({ from, to, opening, drafts, filter, find, sort }: Step) => ({
  from,
  to,
  opening: opening || undefined,
  drafts: drafts ? 'yes' : undefined,
  filter,
  find,
  sort,
});
const linesPath = (company: number, { account }: Step): string => `/companies/${company}/accounts/${encodeURIComponent(account)}/entries`;

export function useEntryLines(company: number, step: Step | null) {
  return useInfiniteQuery({
    queryKey: ['entries', company, step],
    enabled: step !== null,
    initialPageParam: 0,
    queryFn: ({ pageParam, signal }) =>
      getJson<EntryLinesDto>(`${linesPath(company, step!)}${queryText({ ...linesQuery(step!), after: pageParam })}`, signal),
    getNextPageParam: (page) => page.next ?? undefined,
    placeholderData: keepPreviousData,
  });
}
const ROW = 44;
const amountWords = (amount: number, exponent: number): string => formatAmount(amount as Minor, { exponent, unit: 'cents' });

/** The entries behind an account's amount, virtual: any number of them. */
export function AccountStep({
  lines,
  step,
  change,
  exponent,
  openEntry,
}: {
  readonly lines: ReturnType<typeof useEntryLines>;
  readonly step: Step;
  /** other lines of the same account */
  readonly change: (step: Step) => void;
  readonly exponent: number;
  readonly openEntry: (entry: number) => void;
}) {
  const { id: company } = useCompany();
  const scroller = useRef<HTMLDivElement>(null);
  // typed, and asked for when the person stops typing
  const [find, setFind] = useState(step.find ?? '');
  useEffect(() => {
    if (find.trim() === (step.find ?? '')) return undefined;
    const timer = setTimeout(() => change({ ...step, find: find.trim() }), 300);
    return () => clearTimeout(timer);
  }, [find, step, change]);
  const all = lines.data?.pages.flatMap((page) => page.lines) ?? [];
  // oxlint-disable-next-line react/incompatible-library -- the virtualizer is read in this component only
  const virtual = useVirtualizer({ count: all.length, getScrollElement: () => scroller.current, estimateSize: () => ROW, overscan: 12 });
  const items = virtual.getVirtualItems();
  const lastShown = items.at(-1)?.index ?? 0;
  const { hasNextPage, isFetchingNextPage, fetchNextPage } = lines;
  useEffect(() => {
    if (hasNextPage && !isFetchingNextPage && lastShown >= all.length - 40) void fetchNextPage();
  }, [lastShown, all.length, hasNextPage, isFetchingNextPage, fetchNextPage]);
  if (lines.isError) return <Failure error={lines.error} retry={() => void lines.refetch()} />;
  const first = lines.data?.pages[0];
  if (!first) return <Loading what="the entries" />;
  return (
    <>
      <p className="text-[14px] text-ink-soft">
        {first.span}, {first.count.toLocaleString('en-US')} {first.count === 1 ? 'line' : 'lines'}
      </p>
      <div className="mt-2 flex flex-wrap items-center gap-2 text-[13px]">
        <input
          className="field min-w-0 flex-1 py-0.5 text-[13px]"
          placeholder="Find in these entries"
          aria-label="Find in these entries"
          value={find}
          onChange={(event) => setFind(event.target.value)}
        />
        <select
          className="field py-0.5 text-[13px]"
          aria-label="Sort entries"
          value={step.sort ?? 'date'}
          onChange={(event) => change({ ...step, sort: event.target.value as 'date' | 'amount' })}
        >
          <option value="date">By date</option>
          <option value="amount">By size</option>
        </select>
        <a className="link" href={`/api${linesPath(company, step)}/export.csv${queryText(linesQuery(step))}`} download>
          Export CSV
        </a>
      </div>
      <div className="mt-2 grid grid-cols-[84px_1fr_auto] border-b border-ink pb-1 text-[13px] font-semibold">
        <span>Date</span>
        <span>Party, document, memo</span>
        <span>{all[0]?.balance === null ? 'Amount' : 'Amount, balance'}</span>
      </div>
      <div ref={scroller} className="max-h-[calc(100vh-330px)] overflow-y-auto" tabIndex={0} role="region" aria-label="Entries">
        <ul className="relative" style={{ height: virtual.getTotalSize() }}>
          {items.map((item) => {
            const line = all[item.index]!;
            return (
              <li
                key={line.lineId}
                className="absolute inset-x-0 border-b border-hairline text-[13px] hover:bg-wash"
                style={{ height: ROW, top: item.start }}
              >
                <button
                  type="button"
                  className="grid h-full w-full grid-cols-[84px_1fr_auto] items-center text-left"
                  onClick={() => openEntry(line.entryId)}
                  aria-label={`${dateWords(line.date)}, ${[line.party, line.memo].filter(Boolean).join(', ') || 'no description'}, ${amountWords(line.amount, exponent)}, entry ${line.entry}`}
                >
                  <span className="tabular-nums">{dateWords(line.date)}</span>
                  <span className="min-w-0 pr-2">
                    <span className="block truncate text-copper underline underline-offset-2">
                      {[line.party || line.memo || line.entry, line.document].filter(Boolean).join(', ')}
                    </span>
                    <span className="block truncate text-[12px] text-ink-soft">
                      {[line.entry, line.party ? line.memo : '', ...Object.values(line.dimensions)].filter(Boolean).join(' · ')}
                    </span>
                  </span>
                  <span className="tabular-nums">
                    <Amount value={line.amount} exponent={exponent} />
                    {line.balance === null ? null : (
                      <span className="block text-right text-[12px] text-ink-soft">
                        <Amount value={line.balance} exponent={exponent} />
                      </span>
                    )}
                  </span>
                </button>
              </li>
            );
          })}
        </ul>
      </div>
    </>
  );
}
