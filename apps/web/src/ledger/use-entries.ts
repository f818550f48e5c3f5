import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query';
import type { EntryListDto } from '@wise-margin/contract';
import { parseTypedAmount } from '@wise-margin/core';

import { getJson, queryText } from '../api/client.ts';
import type { EntryChoices } from './entry-choices.ts';

/** A bound as typed, in minor units; undefined when it is empty, null when it is not an amount. */
export function boundOf(text: string, exponent: number): number | null | undefined {
  if (text.trim() === '') return undefined;
  const parsed = parseTypedAmount(text, exponent);
  return parsed.ok ? Math.abs(parsed.value) : null;
}

/** The query that choices stand for. */
export function entryQuery(choices: EntryChoices, exponent: number): string {
  const { sort, filter, least, most, ...texts } = choices;
  const chosen = Object.fromEntries(Object.entries(filter).map(([name, values]) => [name, [...values]]));
  return queryText({
    ...texts,
    filter: chosen,
    least: boundOf(least, exponent) ?? undefined,
    most: boundOf(most, exponent) ?? undefined,
    sort: sort.by,
    order: sort.descending ? 'descending' : 'ascending',
  });
}

/** Lines of the entries that match, loaded as they are scrolled to. */
export function useEntries(company: number, query: string) {
  return useInfiniteQuery({
    queryKey: ['entry-list', company, query],
    initialPageParam: 0,
    queryFn: ({ pageParam, signal }) => getJson<EntryListDto>(`/companies/${company}/entries${query}&after=${pageParam}`, signal),
    getNextPageParam: (page) => page.next ?? undefined,
    placeholderData: keepPreviousData,
  });
}
