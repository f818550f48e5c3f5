import { useMutation } from '@tanstack/react-query';
import type { FoundLinesDto, ListedLineDto } from '@wise-margin/contract';
import { formatAmount, type Minor } from '@wise-margin/core';
import { useMemo, useState } from 'react';

import { getJson } from '../api/client.ts';
import { ReclassificationDialog } from '../corrections/index.ts';
import { useCompany } from '../data/company.ts';
import { DrillDownSteps, useDrillDownAddress } from '../drill-down/index.ts';
import { ColumnChoice } from '../ui/column-choice.tsx';
import { dateWords } from '../ui/date-words.ts';
import { List } from '../ui/list.tsx';
import { Empty, Failure, Loading } from '../ui/states.tsx';
import { useKeys } from '../ui/use-keys.ts';
import { useListColumns } from '../ui/use-list-columns.ts';
import { useReturnFocus } from '../ui/use-return-focus.ts';
import { useSearch } from '../ui/use-search.ts';
import { chosenAddress, type EntryChoices, filterCount, readEntryChoices, writeEntryChoices } from './entry-choices.ts';
import { entryColumns, extraEntryColumns } from './entry-columns.tsx';
import { EntryFilters } from './entry-filters.tsx';
import { MonthChoice } from './month-choice.tsx';
import { SavedFilters } from './saved-filters.tsx';
import { entryQuery, useEntries } from './use-entries.ts';

/** Every line of every entry: found, filtered, sorted, added up; each opens its entry. */
export default function EntriesPage() {
  const company = useCompany();
  const { exponent, dimensions } = company;
  const [search, setSearch] = useSearch();
  const choices = readEntryChoices(search);
  const choose = (change: Partial<EntryChoices>) => setSearch((before) => writeEntryChoices(before, change), { replace: true });
  const address = useDrillDownAddress();
  useKeys({ Escape: () => (address.isOpen ? address.back() : undefined) });
  useReturnFocus(address.isOpen, () => null);
  const query = entryQuery(choices, exponent);
  const entries = useEntries(company.id, query);
  const extra = useMemo(() => extraEntryColumns(dimensions), [dimensions]);
  const chosen = useListColumns('entries', extra);
  const totals = entries.data?.pages[0]?.totals;
  const columns = useMemo(
    () => entryColumns({ exponent, totals, state: choices.state, dimensions }),
    [exponent, totals, choices.state, dimensions],
  );
  const rows = useMemo(() => entries.data?.pages.flatMap(({ lines }) => lines) ?? [], [entries.data]);
  const [selected, setSelected] = useState<ReadonlySet<number>>(new Set());
  const [isReclassifying, setReclassifying] = useState(false);
  const everyLine = useMutation({
    mutationFn: () => getJson<FoundLinesDto>(`/companies/${company.id}/entries/lines${query}`),
    onSuccess: ({ lines }) => setSelected(new Set(lines)),
  });
  if (company.entryCount === 0) return <Empty title="No entries yet">Import a ledger on the Imports tab.</Empty>;
  const { hasNextPage, isFetchingNextPage, fetchNextPage } = entries;
  return (
    <>
      <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1 text-[13px]">
        <input
          className="field w-64 py-0.5 text-[13px]"
          placeholder="Find by number, document, memo or party"
          aria-label="Find entries"
          value={choices.find}
          onChange={(event) => choose({ find: event.target.value })}
        />
        <MonthChoice label="From" value={choices.from} none="First month" choose={(from) => choose({ from })} />
        <MonthChoice label="To" value={choices.to} none="Last month" choose={(to) => choose({ to })} />
        <EntryFilters choices={choices} choose={choose} />
        <SavedFilters
          address={chosenAddress(search)}
          open={(saved) => setSearch((before) => writeEntryChoices(before, readEntryChoices(new URLSearchParams(saved))))}
        />
        <ColumnChoice columns={columns} chosen={chosen} />
        <a className="link" href={`/api/companies/${company.id}/entries/export.csv${query}`} download>
          Export CSV
        </a>
        {selected.size === 0 ? (
          <span role="status" className="text-ink-soft">
            {totals ? `${count(totals.lines, 'line')} of ${count(totals.entries, 'entry', 'entries')}` : ''}
          </span>
        ) : (
          <span className="ml-auto flex items-center gap-3">
            {totals && selected.size < totals.lines && rows.every(({ lineId }) => selected.has(lineId)) ? (
              <button type="button" className="link" disabled={everyLine.isPending} onClick={() => everyLine.mutate()}>
                Select all {count(totals.lines, 'line')} found
              </button>
            ) : null}
            {everyLine.isError ? (
              <span role="alert" className="text-brick">
                {everyLine.error.message}
              </span>
            ) : null}
            <button type="button" className="link" onClick={() => setSelected(new Set())}>
              Clear selection
            </button>
            <button type="button" className="button" onClick={() => setReclassifying(true)}>
              Reclassify {count(selected.size, 'line')}
            </button>
          </span>
        )}
      </div>
      <div className="flex min-h-0 flex-1 pb-3">
        {entries.isError ? (
          <Failure error={entries.error} retry={() => void entries.refetch()} />
        ) : !entries.data ? (
          <Loading what="the entries" />
        ) : rows.length === 0 ? (
          <NoMatch choices={choices} />
        ) : (
          <List
            label="Entries"
            rows={rows}
            rowKey={({ lineId }) => lineId}
            columns={columns}
            chosen={chosen}
            sort={{ now: choices.sort, set: (sort) => choose({ sort }), isOfServer: true }}
            open={{
              words: (line) => lineWords(line, exponent),
              act:
                ({ entryId }) =>
                () =>
                  address.openEntry(entryId),
            }}
            selection={{
              isSelected: ({ lineId }) => selected.has(lineId),
              toggle: ({ lineId }) => setSelected(toggled(selected, lineId)),
              setAll: (isSelected) => setSelected(new Set(isSelected ? rows.map(({ lineId }) => lineId) : [])),
            }}
            isMarked={({ entryId }) => entryId === address.state.entry}
            more={hasNextPage && !isFetchingNextPage ? () => void fetchNextPage() : undefined}
          />
        )}
        {address.isOpen ? <DrillDownSteps address={address} /> : null}
      </div>
      {isReclassifying ? (
        <ReclassificationDialog lines={[...selected]} close={() => setReclassifying(false)} done={() => setSelected(new Set())} />
      ) : null}
    </>
  );
}

function toggled(selected: ReadonlySet<number>, line: number): ReadonlySet<number> {
  const next = new Set(selected);
  if (!next.delete(line)) next.add(line);
  return next;
}

function NoMatch({ choices }: { readonly choices: EntryChoices }) {
  const ways = [
    ...(choices.find === '' ? [] : ['find another text']),
    ...(choices.from === '' && choices.to === '' ? [] : ['choose other months']),
    ...(filterCount(choices) === 0 ? [] : ['clear a filter']),
    ...(choices.state === '' ? ['include drafts under Filters'] : []),
  ];
  const words = ways.join(' or ');
  return (
    <p className="flex-1 border border-hairline bg-sheet p-4 text-ink-soft">
      No entry matches. {words.charAt(0).toUpperCase()}
      {words.slice(1)}
      {words === '' ? '' : '.'}
    </p>
  );
}

const count = (number: number, one: string, many = `${one}s`): string => `${number.toLocaleString('en-US')} ${number === 1 ? one : many}`;

const lineWords = ({ entry, date, accountName, party, memo, amount }: ListedLineDto, exponent: number): string =>
  [
    `Entry ${entry}`,
    dateWords(date),
    accountName,
    party || memo,
    `${amount < 0 ? 'credit' : 'debit'} ${formatAmount(Math.abs(amount) as Minor, { exponent, unit: 'cents' })}`,
  ]
    .filter(Boolean)
    .join(', ');
