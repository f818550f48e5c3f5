import type { ReconciliationDto } from '@wise-margin/contract';
import { daysBetween } from '@wise-margin/core';
import { dayWords } from '@wise-margin/presentation';

import { useCompany } from '../data/company.ts';
import { Amount } from '../ui/figure.tsx';
import { ListExport } from '../ui/list-export.tsx';
import { bankWords, cashWords } from './match-view.tsx';

type Item = {
  readonly key: string;
  readonly kind: string;
  readonly date: string;
  readonly entry: string;
  readonly entryId: number | null;
  readonly words: string;
  readonly days: number;
  readonly amount: number;
};

/** What is between the two balances as of the day: on its way to the bank, and not in the ledger yet. */
export function OutstandingView({ of, openEntry }: { readonly of: ReconciliationDto; readonly openEntry: (entry: number) => void }) {
  const { exponent } = useCompany();
  const items: readonly Item[] = [
    ...of.outstanding.map((line) => ({
      key: `ledger ${line.id}`,
      kind: line.amount > 0 ? 'Deposit in transit' : 'Outstanding payment',
      date: line.date,
      entry: line.entry,
      entryId: line.entryId,
      words: cashWords(line),
      days: daysBetween(line.date, of.asOf),
      amount: line.amount,
    })),
    ...of.unrecorded.map((line) => ({
      key: `bank ${line.id}`,
      kind: 'Not in the ledger',
      date: line.date,
      entry: '',
      entryId: null,
      words: bankWords(line),
      days: daysBetween(line.date, of.asOf),
      amount: line.amount,
    })),
  ];
  if (items.length === 0) return <p className="py-3 text-[14px] text-ink-soft">Nothing is outstanding on {dayWords(of.asOf)}.</p>;
  const columns = [
    { key: 'kind', name: 'Kind', value: (item: Item) => item.kind, cell: (item: Item) => item.kind },
    { key: 'date', name: 'Date', value: (item: Item) => item.date, cell: (item: Item) => item.date },
    { key: 'entry', name: 'Entry', value: (item: Item) => item.entry, cell: (item: Item) => item.entry },
    { key: 'words', name: 'Description', value: (item: Item) => item.words, cell: (item: Item) => item.words },
    { key: 'days', name: 'Days', value: (item: Item) => item.days, cell: (item: Item) => item.days },
    {
      key: 'amount',
      name: 'Amount',
      isAmount: true,
      value: (item: Item) => item.amount / 10 ** exponent,
      cell: (item: Item) => item.amount,
    },
  ];
  return (
    <>
      <p className="flex gap-4 py-1.5 text-[13px] text-ink-soft">
        As of {dayWords(of.asOf)}
        <ListExport name="outstanding" columns={columns} rows={items} />
      </p>
      <table className="ledger-table w-full table-fixed text-[13px]" aria-label="Outstanding">
        <thead>
          <tr className="text-[12.5px]">
            <th scope="col" className="w-36">
              Kind
            </th>
            <th scope="col" className="w-24">
              Date
            </th>
            <th scope="col" className="w-24">
              Entry
            </th>
            <th scope="col">Description</th>
            <th scope="col" className="w-14 text-right!">
              Days
            </th>
            <th scope="col" className="w-28 text-right!">
              Amount
            </th>
          </tr>
        </thead>
        <tbody>
          {items.map(({ key, kind, date, entry, entryId, words, days, amount }) => (
            <tr key={key} className="hover:bg-wash">
              <td>{kind}</td>
              <td>{dayWords(date)}</td>
              <td>
                {entryId === null ? null : (
                  <button type="button" className="link" onClick={() => openEntry(entryId)}>
                    {entry}
                  </button>
                )}
              </td>
              <td className="truncate" title={words}>
                {words}
              </td>
              <td className="figure">{days.toLocaleString('en-US')}</td>
              <td className="figure">
                <Amount value={amount} exponent={exponent} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
