import { useQuery } from '@tanstack/react-query';
import type { CompanyDto, CompanyListDto } from '@wise-margin/contract';
import { createContext, useContext } from 'react';

import { getJson } from '../api/client.ts';
import { useSearch } from '../ui/use-search.ts';

export const CompanyContext = createContext<CompanyDto | null>(null);

/** The company in view. Only beneath the frame. */
export function useCompany(): CompanyDto {
  const company = useContext(CompanyContext);
  if (!company) throw new Error('useCompany stands outside the frame of a company');
  return company;
}

export const companiesQuery = {
  queryKey: ['companies'],
  queryFn: ({ signal }: { signal: AbortSignal }) => getJson<CompanyListDto>('/companies', signal),
};
export const useCompanies = () => useQuery(companiesQuery);

/** The as-of month: the address's, else the one last looked at, else the last posted. Setting it writes the address. */
export function useAsOf(): readonly [string | null, (period: string) => void] {
  const company = useCompany();
  const [search, setSearch] = useSearch();
  const remembered = localStorage.getItem(`wm.asOf.${company.id}`);
  const held = (key: string | null) => (key !== null && company.periods.some((period) => period.key === key) ? key : null);
  const asOf = held(search.get('asOf')) ?? held(remembered) ?? company.lastPosted;
  const set = (period: string) => {
    localStorage.setItem(`wm.asOf.${company.id}`, period);
    setSearch((before) => {
      before.set('asOf', period);
    });
  };
  return [asOf, set];
}
