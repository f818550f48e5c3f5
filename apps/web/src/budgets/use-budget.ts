import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { unpackBudgetGrid, type FilterDto, type PackedBudgetGrid } from '@wise-margin/contract';
import { getJson, queryText } from '../api/client.ts';

export const budgetKey = (company: number, budget: number, filter: FilterDto) => ['budget', company, budget, filter] as const;
const filterText = (filter: FilterDto) => (Object.keys(filter).length > 0 ? JSON.stringify(filter) : undefined);

export const useBudget = (company: number, budget: number, filter: FilterDto) =>
  useQuery({
    queryKey: budgetKey(company, budget, filter),
    queryFn: async ({ signal }) =>
      unpackBudgetGrid(
        await getJson<PackedBudgetGrid>(`/companies/${company}/budgets/${budget}${queryText({ filter: filterText(filter) })}`, signal),
      ),
    placeholderData: keepPreviousData,
  });
