import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { EntryLinesDto, NonrecurringItemDto } from '@wise-margin/contract';
import { formatAmount, minor } from '@wise-margin/core';
import { groups } from 'd3';
import { useState } from 'react';

import { getJson, queryText, sendDelete, sendJson } from '../api/client.ts';
import { useCompany } from '../data/company.ts';
import { Amount } from '../ui/figure.tsx';
import { SelectField, TextField } from '../ui/labeled-field.tsx';
import { ownSession } from './worksheet/unsaved.ts';

const WHOLE = 'month';
/** As many lines of a month as the ledger hands out at once. */
const MOST_LINES = 2000;

/** What of an account's history does not recur and is left out of its basis, and the form that marks more. */
export function Nonrecurring({
  account,
  budget,
  budgetYear,
  locked,
}: {
  readonly account: string;
  readonly budget: number;
  readonly budgetYear: number;
  readonly locked: boolean;
}) {
  const company = useCompany();
  const client = useQueryClient();
  const [isMarking, setMarking] = useState(false);
  const list = useQuery({
    queryKey: ['nonrecurring-items', company.id, account],
    queryFn: ({ signal }) => getJson<NonrecurringItemDto[]>(`/companies/${company.id}/nonrecurring-items${queryText({ account })}`, signal),
  });
  /** The line takes the changed history up, and the worksheet opens again over it. */
  const flowThrough = async (): Promise<void> => {
    if (!locked)
      await sendJson('POST', `/companies/${company.id}/budgets/${budget}/recalculate`, { accounts: [account], session: ownSession() });
    await client.invalidateQueries();
  };
  const remove = useMutation({
    mutationFn: async (id: number) => {
      await sendDelete(`/companies/${company.id}/nonrecurring-items/${id}`);
      await flowThrough();
    },
  });
  const name = (key: string) => company.periods.find((period) => period.key === key)?.name ?? key;
  return (
    <section aria-label="Nonrecurring items" className="mt-3 text-[13px]">
      <p className="font-semibold">Nonrecurring items</p>
      {list.data?.length === 0 ? <p className="text-ink-soft">Nothing is excluded from this account’s history.</p> : null}
      <ul>
        {list.data?.map(({ id, period, entry, amount, reason }) => (
          <li key={id} className="flex items-start justify-between gap-2 border-b border-hairline py-1">
            <span>
              {name(period)}, {entry ? `entry ${entry.number}` : 'entire month'}: <Amount value={amount} exponent={company.exponent} />
              <span className="block text-ink-soft">{reason}</span>
            </span>
            <button type="button" className="link whitespace-nowrap" disabled={remove.isPending} onClick={() => remove.mutate(id)}>
              Include again
            </button>
          </li>
        ))}
      </ul>
      {remove.isError ? (
        <p role="alert" className="text-brick">
          {remove.error.message}
        </p>
      ) : null}
      {isMarking ? (
        <MarkForm account={account} budgetYear={budgetYear} done={flowThrough} close={() => setMarking(false)} />
      ) : (
        <button type="button" className="link mt-1" onClick={() => setMarking(true)}>
          Exclude a month or an entry
        </button>
      )}
    </section>
  );
}

function MarkForm({
  account,
  budgetYear,
  done,
  close,
}: {
  readonly account: string;
  readonly budgetYear: number;
  readonly done: () => Promise<void>;
  readonly close: () => void;
}) {
  const { id, exponent, periods, firstPosted, lastActual } = useCompany();
  const posted = periods.filter(
    ({ key, year }) => firstPosted !== null && lastActual !== null && key >= firstPosted && key <= lastActual && year < budgetYear,
  );
  const [period, setPeriod] = useState(posted.at(-1)?.key ?? '');
  const [entry, setEntry] = useState(WHOLE);
  const [reason, setReason] = useState('');
  const entries = useQuery({
    queryKey: ['entries', id, account, period],
    enabled: period !== '',
    queryFn: ({ signal }) =>
      getJson<EntryLinesDto>(
        `/companies/${id}/accounts/${account}/entries${queryText({ from: period, to: period, limit: MOST_LINES })}`,
        signal,
      ),
  });
  const mark = useMutation({
    mutationFn: async () => {
      await sendJson('POST', `/companies/${id}/nonrecurring-items`, {
        account,
        period,
        ...(entry === WHOLE ? {} : { entry: Number(entry) }),
        reason,
      });
      await done();
    },
    onSuccess: close,
  });
  // an entry may have several lines at the account, such as one for each department
  const entriesOf = groups(entries.data?.lines ?? [], ({ entryId }) => entryId);
  const left = (entries.data?.count ?? 0) - (entries.data?.lines.length ?? 0);
  const amount = (value: number) => formatAmount(minor(value), { exponent, unit: 'cents' });
  return (
    <form
      aria-label="Exclude"
      className="mt-1 border-l-2 border-copper pl-2"
      onSubmit={(event) => {
        event.preventDefault();
        mark.mutate();
      }}
    >
      <SelectField
        label="Month"
        value={period}
        options={[...posted].reverse().map(({ key, name }) => [key, name] as const)}
        set={(key) => {
          setPeriod(key);
          setEntry(WHOLE);
        }}
      />
      <SelectField
        label="Entry"
        value={entry}
        options={[
          [WHOLE, 'Entire month'],
          ...entriesOf.map(([entryId, lines]) => {
            const amounts = lines.map((line) => amount(line.amount)).join(' + ');
            return [String(entryId), `${lines[0]!.entry}, ${lines[0]!.memo}: ${amounts}`] as const;
          }),
        ]}
        set={setEntry}
      />
      {left > 0 ? <p className="text-ink-soft">{left.toLocaleString('en-US')} more lines of this month are not listed.</p> : null}
      <TextField label="Reason" value={reason} set={setReason} />
      {mark.isError ? (
        <p role="alert" className="mt-1 text-brick">
          {mark.error.message}
        </p>
      ) : null}
      <div className="mt-2 flex items-center gap-3">
        <button type="submit" className="button" disabled={mark.isPending || period === ''}>
          Exclude
        </button>
        <button type="button" className="link" onClick={close}>
          Cancel
        </button>
      </div>
    </form>
  );
}
