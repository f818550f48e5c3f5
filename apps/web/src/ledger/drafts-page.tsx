import { useQuery } from '@tanstack/react-query';
import type { DraftEntriesDto } from '@wise-margin/contract';
import { formatAmount, type Minor } from '@wise-margin/core';

import { getJson } from '../api/client.ts';
import { useCompany } from '../data/company.ts';
import { DrillDownSteps, useDrillDownAddress } from '../drill-down/index.ts';
import { dateWords } from '../ui/date-words.ts';
import { Amount } from '../ui/figure.tsx';
import { LongTable } from '../ui/long-table.tsx';
import { Empty, Failure, Loading } from '../ui/states.tsx';
import { useKeys } from '../ui/use-keys.ts';
import { useReturnFocus } from '../ui/use-return-focus.ts';

/** The entries in draft, which no figure counts until they are asked for; each opens to its lines. */
export default function DraftsPage() {
  const company = useCompany();
  const address = useDrillDownAddress();
  const drafts = useQuery({
    queryKey: ['drafts', company.id],
    queryFn: ({ signal }) => getJson<DraftEntriesDto>(`/companies/${company.id}/draft-entries`, signal),
  });
  useKeys({ Escape: () => (address.isOpen ? address.back() : undefined) });
  useReturnFocus(address.isOpen, () => null);
  if (drafts.isError) return <Failure error={drafts.error} retry={() => void drafts.refetch()} />;
  if (!drafts.data) return <Loading what="the draft entries" />;
  const { entries, count } = drafts.data;
  if (count === 0) return <Empty title="No draft entries">Every imported entry is posted and included in statements.</Empty>;
  const exact = (value: number) => formatAmount(value as Minor, { exponent: company.exponent, unit: 'cents' });
  return (
    <>
      <p className="mb-2 text-[13px] text-ink-soft">
        Draft entries are not included in any amount. To include them, choose “Include draft entries” in a statement’s filters.
        {entries.length < count
          ? ` The latest ${entries.length.toLocaleString('en-US')} of ${count.toLocaleString('en-US')} are listed.`
          : ''}
      </p>
      <div className="flex min-h-0 flex-1 pb-3">
        <LongTable
          label="Draft entries"
          rows={entries}
          rowHeight={26}
          headings={
            <tr>
              {['Entry', 'Date', 'Period', 'Party', 'Memo'].map((name) => (
                <th key={name} scope="col" className="border-b border-ink px-3 py-1.5">
                  {name}
                </th>
              ))}
              <th scope="col" className="border-b border-ink px-2 text-right!">
                Amount
              </th>
            </tr>
          }
          row={({ id, number, date, period, party, memo, amount }, height) => (
            <tr key={id} className="hover:bg-wash" style={{ height }}>
              <th scope="row" className="px-3! font-normal!">
                <button
                  type="button"
                  className="link"
                  aria-label={`Entry ${number}, ${dateWords(date)}, ${party || memo}, ${exact(amount)}`}
                  onClick={() => address.openEntry(id)}
                >
                  {number}
                </button>
              </th>
              <td className="px-3">{dateWords(date)}</td>
              <td className="px-3">{period}</td>
              <td className="max-w-52 truncate px-3" title={party}>
                {party}
              </td>
              <td className="max-w-72 truncate px-3" title={memo}>
                {memo}
              </td>
              <td className="figure">
                <Amount value={amount} exponent={company.exponent} />
              </td>
            </tr>
          )}
        />
        {address.isOpen ? <DrillDownSteps address={address} /> : null}
      </div>
    </>
  );
}
