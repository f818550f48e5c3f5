import { useQuery } from '@tanstack/react-query';
import type { AccountListDto } from '@wise-margin/contract';

import { getJson } from '../api/client.ts';
import { useCompany } from '../data/company.ts';

/** The active accounts, as suggestions of a text field. */
export function AccountOptions({ id }: { readonly id: string }) {
  const { id: company, years } = useCompany();
  const year = years.at(-1);
  const accounts = useQuery({
    queryKey: ['accounts', company, year],
    enabled: year !== undefined,
    queryFn: ({ signal }) => getJson<AccountListDto>(`/companies/${company}/accounts?year=${year}`, signal),
  });
  return (
    <datalist id={id}>
      {(accounts.data?.accounts ?? [])
        .filter(({ active }) => active)
        .map(({ number, name }) => (
          <option key={number} value={number}>
            {number} {name}
          </option>
        ))}
    </datalist>
  );
}
