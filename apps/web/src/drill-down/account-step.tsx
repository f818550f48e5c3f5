import { useInfiniteQuery } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import type { EntryLinesDto } from '@wise-margin/contract';
import { formatAmount, type Minor } from '@wise-margin/core';
import { useEffect, useRef } from 'react';

import { getJson, queryText } from '../api/client.ts';
import { dateWords } from '../ui/date-words.ts';
import { Amount } from '../ui/figure.tsx';
import { Failure, Loading } from '../ui/states.tsx';
import type { AccountStep as Step } from './drill-down-address.ts';

/** Lines of an account over a span, loaded as they are scrolled to. */
export function useEntryLines(company: number, step: Step | null) {
  return useInfiniteQuery({
    queryKey: ['entries', company, step],
    enabled: step !== null,
    initialPageParam: 0,
    queryFn: ({ pageParam, signal }) =>
      getJson<EntryLinesDto>(
        `/companies/${company}/accounts/${encodeURIComponent(step!.account)}/entries${queryText({ from: step!.from, to: step!.to, opening: step!.opening || undefined, drafts: step!.drafts ? 'yes' : undefined, filter: step!.filter, after: pageParam })}`,
        signal,
      ),
    getNextPageParam: (page) => page.next ?? undefined,
  });
}
const ROW = 44;
const amountWords = (amount: number, exponent: number): string => formatAmount(amount as Minor, { exponent, unit: 'cents' });

/** The entries behind an account's amount, virtual: any number of them. */
export function AccountStep({
  lines,
  exponent,
  openEntry,
}: {
  readonly lines: ReturnType<typeof useEntryLines>;
  readonly exponent: number;
  readonly openEntry: (entry: number) => void;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const all = lines.data?.pages.flatMap((page) => page.lines) ?? [];
  // eslint-disable-next-line react-hooks/incompatible-library -- the virtualizer is read in this component only
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
      <div className="mt-2 grid grid-cols-[84px_1fr_auto] border-b border-ink pb-1 text-[13px] font-semibold">
        <span>Date</span>
        <span>Party, document, memo</span>
        <span>Amount</span>
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
