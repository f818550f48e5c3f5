import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query';
import type { AuditArea, AuditTrailDto } from '@wise-margin/contract';
import { useMemo } from 'react';

import { getJson, queryText } from '../api/client.ts';
import { useCompany } from '../data/company.ts';
import { DrillDownSteps, useDrillDownAddress } from '../drill-down/index.ts';
import { Choice } from '../ui/choice.tsx';
import { DateField } from '../ui/date-field.tsx';
import { Empty, Failure, Loading } from '../ui/states.tsx';
import { useKeys } from '../ui/use-keys.ts';
import { useReturnFocus } from '../ui/use-return-focus.ts';
import { useSearch } from '../ui/use-search.ts';
import { AuditEvents } from './audit-events.tsx';
import { AuditVerification } from './audit-verification.tsx';

const AREAS: readonly (readonly [AuditArea | '', string])[] = [
  ['', 'All'],
  ['ledger', 'Ledger'],
  ['budgets', 'Budgets'],
  ['views', 'Views'],
  ['settings', 'Settings'],
];
// a drill-down keeps `from` and `to` of its own in the address
const CHOICES = { area: 'area', find: 'find', from: 'since', to: 'until', reviewed: 'reviewed' } as const;
type Choices = Record<keyof typeof CHOICES, string>;

/** Every change on record: when, who, what, from, to and why. */
export default function AuditPage() {
  const company = useCompany();
  const [search, setSearch] = useSearch();
  const address = useDrillDownAddress();
  useKeys({ Escape: () => (address.isOpen ? address.back() : undefined) });
  useReturnFocus(address.isOpen, () => null);
  const set = (name: keyof Choices, value: string) =>
    setSearch(
      (before) => {
        if (value === '') before.delete(CHOICES[name]);
        else before.set(CHOICES[name], value);
      },
      { replace: true },
    );
  const choices = Object.fromEntries(Object.entries(CHOICES).map(([name, inAddress]) => [name, search.get(inAddress) ?? ''])) as Choices;
  const query = queryText(choices);
  const trail = useInfiniteQuery({
    queryKey: ['audit', company.id, query],
    initialPageParam: '',
    queryFn: ({ pageParam, signal }) =>
      getJson<AuditTrailDto>(`/companies/${company.id}/audit${queryText({ ...choices, before: pageParam })}`, signal),
    getNextPageParam: ({ next }) => (next === null ? undefined : String(next)),
    placeholderData: keepPreviousData,
  });
  const events = useMemo(() => trail.data?.pages.flatMap((page) => page.events) ?? [], [trail.data]);
  const { count: total = 0, reviewed = 0 } = trail.data?.pages[0] ?? {};
  return (
    <>
      <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1 text-[13px]">
        <input
          className="field w-44 py-0.5 text-[13px]"
          placeholder="Find changes"
          aria-label="Find changes"
          value={choices.find}
          onChange={(event) => set('find', event.target.value)}
        />
        <Choice label="Area" value={choices.area} options={AREAS} choose={(value) => set('area', value)} />
        <Choice
          label="Review"
          value={choices.reviewed}
          options={[
            ['', 'All'],
            ['no', 'Not reviewed'],
            ['yes', 'Reviewed'],
          ]}
          choose={(value) => set('reviewed', value)}
        />
        <DayField label="From" value={choices.from} set={(value) => set('from', value)} />
        <DayField label="To" value={choices.to} set={(value) => set('to', value)} />
        <a className="link" href={`/api/companies/${company.id}/audit/export.csv${query}`} download>
          Export CSV
        </a>
        <span role="status" className="text-ink-soft">
          {trail.data
            ? `${total.toLocaleString('en-US')} ${total === 1 ? 'change' : 'changes'}, ${reviewed.toLocaleString('en-US')} reviewed`
            : ''}
        </span>
        <AuditVerification />
      </div>
      <div className="flex min-h-0 flex-1 pb-3">
        {trail.isError ? (
          <Failure error={trail.error} retry={() => void trail.refetch()} />
        ) : !trail.data ? (
          <Loading what="the audit trail" />
        ) : events.length > 0 ? (
          <AuditEvents
            events={events}
            openEntry={address.openEntry}
            more={trail.hasNextPage ? { isLoading: trail.isFetchingNextPage, load: () => void trail.fetchNextPage() } : null}
          />
        ) : query === '' ? (
          <Empty title="No changes yet">Imports and changes of budgets, views and settings are recorded here.</Empty>
        ) : (
          <p className="flex-1 border border-hairline bg-sheet p-4 text-ink-soft">
            No change matches. Choose another area, other days or another text.
          </p>
        )}
        {address.isOpen ? <DrillDownSteps address={address} /> : null}
      </div>
    </>
  );
}

function DayField({ label, value, set }: { readonly label: string; readonly value: string; readonly set: (value: string) => void }) {
  return (
    <label className="flex items-center gap-1.5">
      <span className="text-ink-soft">{label}</span>
      <DateField className="field py-0.5 text-[13px]" value={value} set={set} />
    </label>
  );
}
