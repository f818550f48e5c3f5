import type { FigureGroupsDto } from '@wise-margin/contract';
import { COMPANY, type FiscalCalendar } from '@wise-margin/core';

import type { CombinedBooks } from './combined-books.ts';

type Entries = FigureGroupsDto['rows'][number]['entries'];

/**
 * Where the entries of a row of a combined figure are, when they are one company's: its accounts by the numbers it has them
 * under. Null for the row of several companies, for what is left out between them, and for something that the company does
 * not have.
 */
export function companyEntries({ members, layout }: CombinedBooks, found: Entries): Entries {
  if (found === null) return null;
  const { [COMPANY]: companies = [], ...filter } = found.filter;
  const index = companies.length === 1 ? members.findIndex(({ name }) => name === companies[0]) : -1;
  if (index < 0) return null;
  const { id, chart, calendar, dimensions } = members[index]!;
  if (Object.keys(filter).some((name) => !dimensions.some((each) => each.name === name))) return null;
  const combined = new Set(found.accounts.split(', '));
  const own = chart.accounts.filter((_, at) => combined.has(layout.chart.accounts[layout.positions[index]![at]!]!.number));
  const months = within(calendar, found);
  if (own.length === 0 || months === null) return null;
  return { company: id, accounts: own.map(({ number }) => number).join(', '), ...months, filter };
}

/** The months of a span that a company has; null when it has none of them. Keys of months sort as their months do. */
function within(
  { periods }: FiscalCalendar,
  { from, to }: { readonly from: string; readonly to: string },
): { from: string; to: string } | null {
  const own = periods.filter(({ key }) => key >= from && key <= to);
  return own.length === 0 ? null : { from: own[0]!.key, to: own.at(-1)!.key };
}
