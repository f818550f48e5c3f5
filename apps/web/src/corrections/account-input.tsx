import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/react';
import { useQuery } from '@tanstack/react-query';
import type { AccountListDto } from '@wise-margin/contract';
import { matchNames } from '@wise-margin/core';

import { getJson } from '../api/client.ts';
import { useCompany } from '../data/company.ts';

const MOST_OFFERED = 12;
type Account = AccountListDto['accounts'][number];

/** The active accounts of the company. */
function useAccounts(): readonly Account[] {
  const { id: company, years } = useCompany();
  const year = years.at(-1);
  const accounts = useQuery({
    queryKey: ['accounts', company, year],
    enabled: year !== undefined,
    queryFn: ({ signal }) => getJson<AccountListDto>(`/companies/${company}/accounts?year=${year}`, signal),
  });
  return accounts.data?.accounts.filter(({ active }) => active) ?? [];
}

/** Accounts whose number begins with the text, or whose name has words that begin with its words: `boat sh` finds Boat show. */
function offered(accounts: readonly Account[], text: string): readonly Account[] {
  const words = text.trim().toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return accounts.slice(0, MOST_OFFERED);
  const names = accounts.map(({ number, name }) => [number, name, `${number} ${name}`]);
  return matchNames(words, names, MOST_OFFERED).map(({ at }) => accounts[at]!);
}

/** An account, typed as its number or found by its name; arrows and Enter choose one of those offered. */
export function AccountInput({
  value,
  set,
  label,
  className = 'field py-0.5 text-[13px]',
  placeholder,
}: {
  readonly value: string;
  readonly set: (number: string) => void;
  /** left out where a label is around it */
  readonly label?: string;
  readonly className?: string;
  readonly placeholder?: string;
}) {
  const accounts = useAccounts();
  const hits = offered(accounts, value);
  return (
    <Combobox value={value} onChange={(number: string | null) => number !== null && set(number)}>
      <ComboboxInput
        className={className}
        autoComplete="off"
        displayValue={(text: string) => text}
        onChange={(event) => set(event.target.value)}
        // a name that only one account answers to is that account
        onBlur={() => hits.length === 1 && value.trim() !== '' && hits[0]!.number !== value && set(hits[0]!.number)}
        {...(label === undefined ? {} : { 'aria-label': label })}
        {...(placeholder === undefined ? {} : { placeholder })}
      />
      <ComboboxOptions
        anchor="bottom start"
        // the fields around it stay in reach
        modal={false}
        className="z-50 max-h-64 w-80 overflow-y-auto border border-hairline bg-sheet text-[13px] empty:hidden"
      >
        {hits.map(({ number, name }) => (
          <ComboboxOption key={number} value={number} className="flex cursor-pointer gap-2 px-2 py-1 data-focus:bg-wash">
            <span className="text-ink-soft">{number}</span> {name}
          </ComboboxOption>
        ))}
      </ComboboxOptions>
    </Combobox>
  );
}
