import { useQuery } from '@tanstack/react-query';
import type { DimensionValuesDto, FilterDto } from '@wise-margin/contract';
import { useId, useState } from 'react';

import { getJson } from '../api/client.ts';
import { useCompany } from '../data/company.ts';
import { ValuePicker } from '../ui/value-picker.tsx';

const NAMES: Readonly<Record<string, string>> = { party: 'Customer or vendor', source: 'Source journal' };
export const dimensionName = (name: string): string => NAMES[name] ?? name[0]!.toUpperCase() + name.slice(1);
const valueName = (value: string): string => (value === '' ? 'None' : value);

/** What the statement keeps to: accounts, any dimension, customers and vendors, source journals, drafts. */
export function FiltersPanel({
  filter,
  accounts,
  drafts,
  setFilter,
  setAccounts,
  setDrafts,
}: {
  readonly filter: FilterDto;
  readonly accounts: string;
  readonly drafts: boolean;
  readonly setFilter: (dimension: string, values: readonly string[]) => void;
  readonly setAccounts: (text: string) => void;
  readonly setDrafts: (drafts: boolean) => void;
}) {
  const { dimensions, furtherDimensions, draftCount } = useCompany();
  const id = useId();
  return (
    <div className="flex flex-col gap-2">
      <AccountsField key={accounts} accounts={accounts} commit={setAccounts} />
      {[...dimensions.map(({ name }) => name), ...furtherDimensions].map((name) => (
        <DimensionField key={name} dimension={name} values={filter[name] ?? []} choose={(values) => setFilter(name, values)} />
      ))}
      <div className="flex items-start gap-2">
        <input
          id={id}
          type="checkbox"
          className="mt-[3px] accent-copper"
          checked={drafts}
          onChange={(event) => setDrafts(event.target.checked)}
        />
        <label htmlFor={id}>
          Include draft entries
          <span className="block text-[12px] text-ink-soft">
            {draftCount === 0
              ? 'There are none'
              : `${draftCount.toLocaleString('en-US')} ${draftCount === 1 ? 'entry is' : 'entries are'} in draft`}
          </span>
        </label>
      </div>
    </div>
  );
}

function AccountsField({ accounts, commit }: { readonly accounts: string; readonly commit: (text: string) => void }) {
  const [text, setText] = useState(accounts);
  const id = useId();
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        commit(text);
      }}
    >
      <label htmlFor={id} className="text-ink-soft">
        Accounts
      </label>
      <div className="flex gap-2">
        <input
          id={id}
          className="field min-w-0 flex-1 py-0.5 text-[13px]"
          placeholder="All; or such as 4000-4999, 6100"
          value={text}
          onChange={(event) => setText(event.target.value)}
          onBlur={() => text !== accounts && commit(text)}
        />
        <button type="submit" className="button">
          Limit to these
        </button>
      </div>
    </form>
  );
}

function DimensionField({
  dimension,
  values,
  choose,
}: {
  readonly dimension: string;
  readonly values: readonly string[];
  readonly choose: (values: string[]) => void;
}) {
  const company = useCompany();
  const known = useQuery({
    queryKey: ['dimension', company.id, dimension],
    queryFn: ({ signal }) => getJson<DimensionValuesDto>(`/companies/${company.id}/dimensions/${encodeURIComponent(dimension)}`, signal),
  });
  const label = dimensionName(dimension);
  return (
    <div className="flex items-start gap-2">
      <span className="w-32 pt-1 shrink-0 text-ink-soft" aria-hidden="true">
        {label}
      </span>
      {known.isError ? (
        <span role="alert" className="text-brick">
          {known.error.message}
        </span>
      ) : (
        <ValuePicker label={label} all={known.data?.values ?? []} values={values} nameOf={valueName} choose={choose} />
      )}
      {values.length > 0 ? (
        <button type="button" className="link" onClick={() => choose([])}>
          All
        </button>
      ) : null}
    </div>
  );
}
