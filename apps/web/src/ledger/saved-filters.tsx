import { CloseButton } from '@headlessui/react';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { SavedFiltersDto } from '@wise-margin/contract';
import { useState } from 'react';

import { getJson, sendDelete, sendJson } from '../api/client.ts';
import { useCompany } from '../data/company.ts';
import { FloatingPanel } from '../ui/floating-panel.tsx';

/** The choices of the list under names: one is opened, this one is saved. */
export function SavedFilters({ address, open }: { readonly address: string; readonly open: (address: string) => void }) {
  const { id: company } = useCompany();
  const client = useQueryClient();
  const [name, setName] = useState('');
  const path = `/companies/${company}/entry-filters`;
  const key = ['entry-filters', company];
  const filters = useQuery({ queryKey: key, queryFn: ({ signal }) => getJson<SavedFiltersDto>(path, signal) });
  const onSuccess = () => client.invalidateQueries({ queryKey: key });
  const save = useMutation({ mutationFn: () => sendJson<SavedFiltersDto>('PUT', path, { name, address }), onSuccess });
  const remove = useMutation({ mutationFn: (id: number) => sendDelete(`${path}/${id}`), onSuccess });
  const error = filters.error ?? save.error ?? remove.error;
  return (
    <FloatingPanel label="Saved" count={filters.data?.length ?? 0}>
      {error ? (
        <p role="alert" className="mb-2 text-brick">
          {error.message}
        </p>
      ) : null}
      <ul className="flex flex-col gap-1">
        {(filters.data ?? []).map((filter) => (
          <li key={filter.id} className="flex items-center gap-3">
            <CloseButton className="link min-w-0 flex-1 truncate text-left" onClick={() => open(filter.address)}>
              {filter.name}
            </CloseButton>
            <button type="button" className="link" aria-label={`Remove ${filter.name}`} onClick={() => remove.mutate(filter.id)}>
              Remove
            </button>
          </li>
        ))}
      </ul>
      <form
        className="mt-2 flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate();
          setName('');
        }}
      >
        <input
          className="field min-w-0 flex-1 py-0.5 text-[13px]"
          aria-label="Name of this filter"
          placeholder="Name of this filter"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <button type="submit" className="button" disabled={name.trim() === ''}>
          Save
        </button>
      </form>
    </FloatingPanel>
  );
}
