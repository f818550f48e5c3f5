import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { LedgerPeriodDto, LedgerPeriodsDto, UnfinishedDto } from '@wise-margin/contract';
import type { PeriodState } from '@wise-margin/core';
import { useId, useMemo, useState } from 'react';

import { getJson, queryText, sendJson } from '../api/client.ts';
import { useCompany } from '../data/company.ts';
import { DialogFrame } from '../ui/dialog-frame.tsx';
import { CheckField } from '../ui/labeled-field.tsx';
import { List, type ListColumn, type ListSort } from '../ui/list.tsx';
import { Empty, Failure, Loading } from '../ui/states.tsx';
import { useListColumns } from '../ui/use-list-columns.ts';
import { LastActual } from './last-actual.tsx';

const STATE_NAMES: Readonly<Record<PeriodState, string>> = { open: 'Open', softClosed: 'Soft-closed', closed: 'Closed' };
const NO_EXTRA: readonly string[] = [];
const keyOf = ({ year, number }: LedgerPeriodDto): string => `${year}-${number}`;

/** The periods of the ledger: which take entries, and what is left to do in them before they are closed. */
export default function PeriodsPage() {
  const company = useCompany();
  const periods = useQuery({
    queryKey: ['periods', company.id],
    queryFn: ({ signal }) => getJson<LedgerPeriodsDto>(`/companies/${company.id}/periods`, signal),
  });
  const [open, setOpen] = useState<string | null>(null);
  const [sort, setSort] = useState<ListSort>({ by: '', descending: false });
  const [isEmptyShown, setEmptyShown] = useState(false);
  const chosen = useListColumns('periods', NO_EXTRA);
  const columns = useMemo(() => periodColumns(), []);
  if (periods.isError) return <Failure error={periods.error} retry={() => void periods.refetch()} />;
  if (!periods.data) return <Loading what="the periods" />;
  const { periods: all, people } = periods.data;
  if (company.entryCount === 0) return <Empty title="No periods yet">Import a ledger on the Imports tab.</Empty>;
  const shown = isEmptyShown ? all : all.filter(({ entries, state }) => entries > 0 || state !== 'open');
  const chosenPeriod = all.find((period) => keyOf(period) === open);
  const closed = all.filter(({ state }) => state !== 'open').length;
  return (
    <>
      <LastActual />
      <div className="mb-2 flex flex-wrap items-center gap-x-5 gap-y-1 text-[13px]">
        <span role="status" className="text-ink-soft">
          {closed === 0 ? 'Every period is open.' : `${closed} of ${all.length} periods ${closed === 1 ? 'is' : 'are'} closed.`} Choose a
          period to close or reopen it.
        </span>
        <CheckField label="Show periods without entries" checked={isEmptyShown} set={setEmptyShown} />
        <People people={people} key={people.join()} />
      </div>
      <div className="flex min-h-0 flex-1 pb-3">
        <List
          label="Periods"
          rows={shown}
          rowKey={keyOf}
          columns={columns}
          chosen={chosen}
          sort={{ now: sort, set: setSort, isOfServer: sort.by === '' }}
          open={{
            words: ({ name, state }) => `${name}, ${STATE_NAMES[state].toLowerCase()}`,
            act: (period) => () => setOpen(keyOf(period)),
          }}
        />
      </div>
      {chosenPeriod ? <PeriodDialog period={chosenPeriod} close={() => setOpen(null)} /> : null}
    </>
  );
}

function periodColumns(): readonly ListColumn<LedgerPeriodDto>[] {
  const count = (value: number) => (value === 0 ? '–' : value.toLocaleString('en-US'));
  return [
    { key: 'name', name: 'Period', value: ({ year, number }) => year * 100 + number, cell: ({ name }) => name },
    { key: 'year', name: 'Fiscal year', cell: ({ year, number }) => `FY${year}, period ${number}` },
    {
      key: 'state',
      name: 'Status',
      value: ({ state }) => STATE_NAMES[state],
      cell: ({ state }) => <span className={state === 'open' ? '' : 'font-semibold'}>{STATE_NAMES[state]}</span>,
    },
    { key: 'entries', name: 'Entries', isAmount: true, value: ({ entries }) => entries, cell: ({ entries }) => count(entries) },
    { key: 'drafts', name: 'Drafts', isAmount: true, value: ({ drafts }) => drafts, cell: ({ drafts }) => count(drafts) },
  ];
}

/** Closes or reopens a period; what is unfinished is listed first. */
function PeriodDialog({ period, close }: { readonly period: LedgerPeriodDto; readonly close: () => void }) {
  const { id: company } = useCompany();
  const client = useQueryClient();
  const { year, number, name, state } = period;
  const [isEarlierToo, setEarlierToo] = useState(false);
  const [reason, setReason] = useState('');
  const id = useId();
  const unfinished = useQuery({
    queryKey: ['unfinished', company, year, number],
    enabled: state !== 'closed',
    queryFn: ({ signal }) => getJson<UnfinishedDto>(`/companies/${company}/periods/unfinished${queryText({ year, number })}`, signal),
  });
  const change = useMutation({
    mutationFn: (to: PeriodState) =>
      sendJson<LedgerPeriodsDto>('PUT', `/companies/${company}/periods`, { year, number, state: to, earlier: isEarlierToo, reason }),
    onSuccess: async () => {
      close();
      await client.invalidateQueries();
    },
  });
  const items = unfinished.data?.items ?? [];
  const isReasonGiven = reason.trim().length >= 3;
  return (
    <DialogFrame title={`${name}: ${STATE_NAMES[state].toLowerCase()}`} width="small" close={close}>
      {change.isError ? (
        <p role="alert" className="mt-2 text-brick">
          {change.error.message}
        </p>
      ) : null}
      {state === 'closed' ? null : (
        <section className="mt-3" aria-label="Unfinished">
          {unfinished.isError ? (
            <p role="alert" className="text-brick">
              {unfinished.error.message}
            </p>
          ) : !unfinished.data ? (
            <Loading what="what is unfinished" />
          ) : items.length === 0 ? (
            <p className="text-pine">Nothing is unfinished through {name}.</p>
          ) : (
            <>
              <p className="font-semibold">Unfinished through {name}</p>
              <ul className="list-disc pl-5">
                {items.map(({ words }) => (
                  <li key={words}>{words}</li>
                ))}
              </ul>
            </>
          )}
          <div className="mt-3">
            <CheckField label="Close every earlier period too" checked={isEarlierToo} set={setEarlierToo} />
          </div>
        </section>
      )}
      {state === 'open' ? null : (
        <div className="mt-3">
          <label htmlFor={id} className="block text-[13px] text-ink-soft">
            Reason for reopening
          </label>
          <input id={id} className="field w-full" value={reason} maxLength={500} onChange={(event) => setReason(event.target.value)} />
        </div>
      )}
      <div className="mt-5 flex flex-wrap justify-end gap-2">
        <button type="button" className="button" onClick={close}>
          Cancel
        </button>
        {state === 'open' ? null : (
          <button type="button" className="button" disabled={!isReasonGiven || change.isPending} onClick={() => change.mutate('open')}>
            Reopen
          </button>
        )}
        {state === 'open' ? (
          <button type="button" className="button" disabled={change.isPending} onClick={() => change.mutate('softClosed')}>
            Soft-close
          </button>
        ) : null}
        {state === 'closed' ? null : (
          <button type="button" className="button button-primary" disabled={change.isPending} onClick={() => change.mutate('closed')}>
            Close {name}
          </button>
        )}
      </div>
    </DialogFrame>
  );
}

/** Who may post in soft-closed periods, by name. */
function People({ people }: { readonly people: readonly string[] }) {
  const { id: company } = useCompany();
  const client = useQueryClient();
  const [text, setText] = useState(people.join(', '));
  const id = useId();
  const save = useMutation({
    mutationFn: (names: readonly string[]) => sendJson<LedgerPeriodsDto>('PUT', `/companies/${company}/periods/people`, { people: names }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['periods', company] }),
  });
  const commit = () => {
    const names = text
      .split(',')
      .map((name) => name.trim())
      .filter(Boolean);
    if (names.join() !== people.join()) save.mutate(names);
  };
  return (
    <form
      className="flex items-center gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        commit();
      }}
    >
      <label htmlFor={id} className="text-ink-soft">
        May post in soft-closed periods
      </label>
      <input
        id={id}
        className="field w-52 py-0.5 text-[13px]"
        placeholder="Nobody; names with commas"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onBlur={commit}
      />
      {save.isError ? (
        <span role="alert" className="text-brick">
          {save.error.message}
        </span>
      ) : null}
    </form>
  );
}
