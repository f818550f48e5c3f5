import { useQuery } from '@tanstack/react-query';
import type { CompanyDto, CompanyListDto } from '@wise-margin/contract';
import { createContext, useContext, useEffect } from 'react';

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

/** Months that were chosen and are not in the address yet, by company: a page with unsaved changes may refuse to go on. */
const asked = new Map<number, string>();

/** The as-of month: the address's, else the one last in view in this window, else the one last chosen, else the last of actuals. Setting it writes the address. */
export function useAsOf(): readonly [string | null, (period: string) => void] {
  const company = useCompany();
  const [search, setSearch] = useSearch();
  const storedAt = `wm.asOf.${company.id}`;
  const held = (key: string | null) => (key !== null && company.periods.some((period) => period.key === key) ? key : null);
  const inAddress = held(search.get('asOf'));
  // a link without a month goes on with the one in view in this window
  useEffect(() => {
    if (inAddress !== null) sessionStorage.setItem(storedAt, inAddress);
  }, [inAddress, storedAt]);
  useEffect(() => {
    if (inAddress === null || asked.get(company.id) !== inAddress) return;
    localStorage.setItem(storedAt, inAddress);
    asked.delete(company.id);
  }, [company.id, inAddress, storedAt]);
  const set = (period: string) => {
    asked.set(company.id, period);
    setSearch((before) => {
      before.set('asOf', period);
    });
  };
  return [inAddress ?? held(sessionStorage.getItem(storedAt)) ?? held(localStorage.getItem(storedAt)) ?? company.lastActual, set];
}
