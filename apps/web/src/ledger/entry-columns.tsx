import type { EntryListDto, ListedLineDto } from '@wise-margin/contract';

import { dimensionName } from '../filters/index.ts';
import { dateWords } from '../ui/date-words.ts';
import { Amount } from '../ui/figure.tsx';
import type { ListColumn } from '../ui/list.tsx';

/** Columns of the list of entries that are shown only when chosen, so that both sides are in view: dimensions after the first among them. */
export const extraEntryColumns = (dimensions: readonly { readonly name: string }[]): readonly string[] => [
  ...dimensions.slice(1).map(({ name }) => `dimension.${name}`),
  'source',
  'state',
  'due',
  'origin',
];

/** What the totals hold, by the status that is listed; posted entries unless another one is chosen. */
const TOTALS: Readonly<Record<string, string>> = { all: 'Total, drafts included', draft: 'Total draft' };

const DraftEntry = ({ entry }: { readonly entry: string }) => (
  <>
    {entry} <span className="border border-copper px-1 text-[11px] text-copper">Draft</span>
  </>
);

/** The columns of the list of entries; both sides with what they add up to. */
export function entryColumns({
  exponent,
  totals,
  state,
  dimensions,
}: {
  readonly exponent: number;
  readonly totals: EntryListDto['totals'] | undefined;
  /** the status that is listed, as the address holds it */
  readonly state: string;
  readonly dimensions: readonly { readonly name: string }[];
}): readonly ListColumn<ListedLineDto>[] {
  const side = (sign: 1 | -1, { amount }: ListedLineDto) =>
    sign * amount > 0 ? <Amount value={sign * amount} exponent={exponent} /> : null;
  const total = (amount: number | undefined) => (amount === undefined ? undefined : <Amount value={amount} exponent={exponent} />);
  return [
    {
      key: 'entry',
      name: 'Entry',
      cell: ({ entry, state: own }) => (own === 'draft' ? <DraftEntry entry={entry} /> : entry),
      total: TOTALS[state] ?? 'Total posted',
    },
    { key: 'date', name: 'Date', value: ({ date }) => date, cell: ({ date }) => dateWords(date) },
    {
      key: 'account',
      name: 'Account',
      value: ({ account }) => account,
      cell: ({ account, accountName }) => `${account} ${accountName}`,
      most: 190,
    },
    {
      key: 'amount',
      name: 'Debit',
      isAmount: true,
      value: ({ amount }) => amount,
      cell: (line) => side(1, line),
      total: total(totals?.debits),
    },
    { key: 'credit', name: 'Credit', isAmount: true, cell: (line) => side(-1, line), total: total(totals?.credits) },
    { key: 'party', name: 'Customer or vendor', value: ({ party }) => party, cell: ({ party }) => party, most: 170 },
    { key: 'document', name: 'Document', cell: ({ document }) => document, most: 110 },
    { key: 'memo', name: 'Memo', cell: ({ memo }) => memo, most: 200 },
    ...dimensions.map(({ name }) => ({
      key: `dimension.${name}`,
      name: dimensionName(name),
      cell: ({ dimensions: values }: ListedLineDto) => values[name] ?? '',
      most: 110,
    })),
    { key: 'source', name: 'Journal', value: ({ source }) => source, cell: ({ source }) => source, most: 90 },
    { key: 'state', name: 'Status', cell: ({ state }) => (state === 'draft' ? 'Draft' : 'Posted') },
    { key: 'due', name: 'Due', cell: ({ due }) => dateWords(due) },
    { key: 'origin', name: 'Origin', cell: ({ importId }) => (importId === null ? 'Manual' : `Import ${importId}`) },
  ];
}
