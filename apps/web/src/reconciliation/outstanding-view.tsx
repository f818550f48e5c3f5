import type { ReconciliationDto } from '@wise-margin/contract';
import { daysBetween } from '@wise-margin/core';
import { dayWords } from '@wise-margin/presentation';
import { useMemo, useState } from 'react';

import { useCompany } from '../data/company.ts';
import { Amount } from '../ui/figure.tsx';
import { List, type ListColumn, type ListSort } from '../ui/list.tsx';
import { ListExport } from '../ui/list-export.tsx';
import { useListColumns } from '../ui/use-list-columns.ts';
import { bankWords, cashWords } from './line-words.ts';

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
const NO_EXTRA: readonly string[] = [];

/** What is between the two balances as of the day: on its way to the bank, and not in the ledger yet. */
export function OutstandingView({ of, openEntry }: { readonly of: ReconciliationDto; readonly openEntry: (entry: number) => void }) {
  const { exponent } = useCompany();
  const [sort, setSort] = useState<ListSort>({ by: 'date', descending: false });
  const chosen = useListColumns('outstanding', NO_EXTRA);
  const columns = useMemo(() => columnsOf(exponent), [exponent]);
  const items = useMemo(() => itemsOf(of), [of]);
  if (items.length === 0) return <p className="py-3 text-[14px] text-ink-soft">Nothing is outstanding on {dayWords(of.asOf)}.</p>;
  return (
    <>
      <p className="flex gap-4 py-1.5 text-[13px] text-ink-soft">
        {of.clearedCount === 0 ? 'Not yet matched, as of' : 'As of'} {dayWords(of.asOf)}
        <ListExport name="outstanding" columns={columns} rows={items} />
      </p>
      <List
        label={of.clearedCount === 0 ? 'Not yet matched' : 'Outstanding'}
        rows={items}
        rowKey={({ key }) => key}
        columns={columns}
        chosen={chosen}
        sort={{ now: sort, set: setSort, isOfServer: false }}
        open={{
          words: ({ kind, words }) => `${kind}, ${words}`,
          act: ({ entryId }) => (entryId === null ? null : () => openEntry(entryId)),
        }}
      />
    </>
  );
}

function itemsOf(of: ReconciliationDto): readonly Item[] {
  const days = (date: string): number => daysBetween(date, of.asOf);
  // before anything is matched, nobody knows what the bank has seen
  const isMatched = of.clearedCount > 0;
  const kindOf = (amount: number): string =>
    isMatched ? (amount > 0 ? 'Deposit in transit' : 'Outstanding check or payment') : amount > 0 ? 'Ledger deposit' : 'Ledger payment';
  return [
    ...of.outstanding.map((line) => ({
      key: `ledger ${line.id}`,
      kind: kindOf(line.amount),
      date: line.date,
      entry: line.entry,
      entryId: line.entryId,
      words: cashWords(line),
      days: days(line.date),
      amount: line.amount,
    })),
    ...of.unrecorded.map((line) => ({
      key: `bank ${line.id}`,
      kind: isMatched ? 'Not in the ledger' : 'Bank line',
      date: line.date,
      entry: '',
      entryId: null,
      words: bankWords(line),
      days: days(line.date),
      amount: line.amount,
    })),
  ];
}

function columnsOf(exponent: number): readonly ListColumn<Item>[] {
  return [
    { key: 'kind', name: 'Kind', value: ({ kind }) => kind, cell: ({ kind }) => kind },
    { key: 'date', name: 'Date', value: ({ date }) => date, cell: ({ date }) => dayWords(date) },
    { key: 'entry', name: 'Entry', value: ({ entry }) => entry, cell: ({ entry }) => entry },
    { key: 'words', name: 'Description', value: ({ words }) => words, cell: ({ words }) => words, most: 300 },
    { key: 'days', name: 'Days', isAmount: true, value: ({ days }) => days, cell: ({ days }) => days.toLocaleString('en-US') },
    {
      key: 'amount',
      name: 'Amount',
      isAmount: true,
      value: ({ amount }) => amount,
      file: ({ amount }) => amount / 10 ** exponent,
      cell: ({ amount }) => <Amount value={amount} exponent={exponent} />,
    },
  ];
}
