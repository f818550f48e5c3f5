import { CloseButton } from '@headlessui/react';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { DraftEntriesDto, EntryMadeDto, EntryTemplateDto } from '@wise-margin/contract';
import { formatAmount, type Minor } from '@wise-margin/core';
import { useMemo, useState } from 'react';

import { getJson, sendDelete, sendJson } from '../api/client.ts';
import { NewEntryDialog } from '../corrections/index.ts';
import { useCompany } from '../data/company.ts';
import { DrillDownSteps, useDrillDownAddress } from '../drill-down/index.ts';
import { dateWords } from '../ui/date-words.ts';
import { DeleteQuestion } from '../ui/delete-question.tsx';
import { Amount } from '../ui/figure.tsx';
import { FloatingPanel } from '../ui/floating-panel.tsx';
import { List, type ListColumn, type ListSort } from '../ui/list.tsx';
import { Empty, Failure, Loading } from '../ui/states.tsx';
import { useKeys } from '../ui/use-keys.ts';
import { useListColumns } from '../ui/use-list-columns.ts';
import { useReturnFocus } from '../ui/use-return-focus.ts';

type Draft = DraftEntriesDto['entries'][number];
const NO_EXTRA: readonly string[] = [];

/** The entries in draft, which no figure counts until they are posted; new entries and templates of them. */
export default function DraftsPage() {
  const company = useCompany();
  const address = useDrillDownAddress();
  const drafts = useQuery({
    queryKey: ['drafts', company.id],
    queryFn: ({ signal }) => getJson<DraftEntriesDto>(`/companies/${company.id}/draft-entries`, signal),
  });
  const [isNew, setNew] = useState<{ readonly template: EntryTemplateDto | null } | null>(null);
  const [sort, setSort] = useState<ListSort>({ by: 'date', descending: true });
  const chosen = useListColumns('drafts', NO_EXTRA);
  const columns = useMemo(() => draftColumns(drafts.data?.entries ?? [], company.exponent), [drafts.data, company.exponent]);
  useKeys({ Escape: () => (address.isOpen ? address.back() : undefined) });
  useReturnFocus(address.isOpen, () => null);
  if (drafts.isError) return <Failure error={drafts.error} retry={() => void drafts.refetch()} />;
  if (!drafts.data) return <Loading what="the draft entries" />;
  const { entries, count } = drafts.data;
  const exact = (value: number) => formatAmount(value as Minor, { exponent: company.exponent, unit: 'cents' });
  return (
    <>
      <div className="mb-2 flex flex-wrap items-center gap-3 text-[13px]">
        <button type="button" className="button" onClick={() => setNew({ template: null })}>
          New entry
        </button>
        <Templates use={(template) => setNew({ template })} />
        <p className="min-w-0 flex-1 text-ink-soft">
          Draft entries are not included in any amount. To include them, choose “Include draft entries” in a statement’s filters.
          {entries.length < count
            ? ` The latest ${entries.length.toLocaleString('en-US')} of ${count.toLocaleString('en-US')} are listed.`
            : ''}
        </p>
      </div>
      <div className="flex min-h-0 flex-1 pb-3">
        {count === 0 ? (
          <Empty title="No draft entries">Every entry is posted and included in statements.</Empty>
        ) : (
          <List
            label="Draft entries"
            rows={entries}
            rowKey={({ id }) => id}
            columns={columns}
            chosen={chosen}
            sort={{ now: sort, set: setSort, isOfServer: false }}
            open={{
              words: ({ number, date, party, memo, amount }) => `Entry ${number}, ${dateWords(date)}, ${party || memo}, ${exact(amount)}`,
              act:
                ({ id }) =>
                () =>
                  address.openEntry(id),
            }}
            isMarked={({ id }) => id === address.state.entry}
          />
        )}
        {address.isOpen ? <DrillDownSteps address={address} /> : null}
      </div>
      {isNew ? <NewEntryDialog template={isNew.template} close={() => setNew(null)} done={address.openEntry} /> : null}
    </>
  );
}

function draftColumns(entries: readonly Draft[], exponent: number): readonly ListColumn<Draft>[] {
  const total = entries.reduce((sum, { amount }) => sum + amount, 0);
  return [
    { key: 'entry', name: 'Entry', value: ({ number }) => number, cell: ({ number }) => number, total: 'Total' },
    { key: 'date', name: 'Date', value: ({ date }) => date, cell: ({ date }) => dateWords(date) },
    { key: 'period', name: 'Period', cell: ({ period }) => period, most: 200 },
    { key: 'party', name: 'Customer or vendor', value: ({ party }) => party, cell: ({ party }) => party, most: 200 },
    { key: 'memo', name: 'Memo', value: ({ memo }) => memo, cell: ({ memo }) => memo, most: 300 },
    {
      key: 'amount',
      name: 'Amount',
      isAmount: true,
      value: ({ amount }) => amount,
      cell: ({ amount }) => <Amount value={amount} exponent={exponent} />,
      total: <Amount value={total} exponent={exponent} />,
    },
  ];
}

/** Entries kept to be made again; a monthly one makes its next draft with one click. */
function Templates({ use }: { readonly use: (template: EntryTemplateDto) => void }) {
  const { id: company } = useCompany();
  const client = useQueryClient();
  const templates = useQuery({
    queryKey: ['templates', company],
    queryFn: ({ signal }) => getJson<EntryTemplateDto[]>(`/companies/${company}/entry-templates`, signal),
  });
  const next = useMutation({
    mutationFn: (id: number) => sendJson<EntryMadeDto>('POST', `/companies/${company}/entry-templates/${id}/next`, {}),
    onSuccess: () => client.invalidateQueries(),
  });
  const remove = useMutation({
    mutationFn: (id: number) => sendDelete(`/companies/${company}/entry-templates/${id}`),
    onSuccess: () => client.invalidateQueries({ queryKey: ['templates', company] }),
  });
  const [removing, setRemoving] = useState<number | null>(null);
  const error = templates.error ?? next.error ?? remove.error;
  return (
    <FloatingPanel label="Templates" count={templates.data?.length ?? 0} wide>
      {error ? (
        <p role="alert" className="mb-2 text-brick">
          {error.message}
        </p>
      ) : null}
      {templates.data?.length === 0 ? (
        <p className="text-ink-soft">No template yet. Choose “Keep as a template” in a new entry.</p>
      ) : (
        <ul className="flex flex-col gap-2">
          {(templates.data ?? []).map((template) => (
            <li key={template.id} className="flex flex-wrap items-center gap-x-3">
              <span className="min-w-0 flex-1 truncate" title={template.name}>
                {template.name}
              </span>
              {template.nextDate === null ? null : (
                <button type="button" className="link" disabled={next.isPending} onClick={() => next.mutate(template.id)}>
                  Create draft for {dateWords(template.nextDate)}
                </button>
              )}
              <CloseButton className="link" onClick={() => use(template)}>
                Use
              </CloseButton>
              <button type="button" className="link" aria-label={`Remove ${template.name}`} onClick={() => setRemoving(template.id)}>
                Remove
              </button>
              {removing === template.id ? (
                <DeleteQuestion
                  label={`Remove ${template.name}`}
                  action="Remove template"
                  isPending={remove.isPending}
                  act={() => remove.mutate(template.id)}
                  cancel={() => setRemoving(null)}
                >
                  {template.name} will no longer be offered. Entries made from it stay.
                </DeleteQuestion>
              ) : null}
            </li>
          ))}
        </ul>
      )}
    </FloatingPanel>
  );
}
