import type { FilterDto } from '@wise-margin/contract';
import { useId } from 'react';

import { useCompany } from '../data/company.ts';
import { AccountsField, DimensionField } from '../filters/index.ts';

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
