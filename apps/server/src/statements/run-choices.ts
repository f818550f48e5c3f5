import { type DisplayChoices, displayChoicesOf, type RunChoices, type StatementQuery } from '@wise-margin/contract';
import { DEFAULT_DISPLAY, type DimensionFilter, type Display, nearMatches, parseAccountList, selects } from '@wise-margin/core';

import { type Books, refuseUnknownFilter } from '../companies/index.ts';
import { refused } from '../http/problem.ts';

/** Everything a statement is run with beside its month: the view's own choices, and over them those of whoever asks. */
export type Run = {
  readonly filter: DimensionFilter;
  /** as typed */
  readonly accounts: string;
  readonly onlyAccounts: ReadonlySet<number> | null;
  readonly drafts: boolean;
  readonly display: Display;
};

/**
 * Joins a view's choices and a query's. An empty list of a dimension, or `all` for accounts, takes the
 * view's choice back.
 * @throws ProblemError 422 for a filter that can match nothing, with what is near
 */
export function runOf(
  books: Books,
  view: { readonly display: DisplayChoices; readonly choices: RunChoices },
  query: Omit<StatementQuery, 'asOf' | 'budget'>,
): Run {
  const filter = Object.fromEntries(Object.entries({ ...view.choices.filter, ...query.filter }).filter(([, values]) => values.length > 0));
  refuseUnknownFilter(books, filter);
  const typed = (query.accounts ?? view.choices.accounts ?? '').trim();
  const accounts = typed.toLowerCase() === 'all' ? '' : typed;
  return {
    filter,
    accounts,
    onlyAccounts: onlyAccounts(books, accounts),
    drafts: query.drafts === undefined ? (view.choices.drafts ?? false) : query.drafts === 'yes',
    display: { ...DEFAULT_DISPLAY, ...view.display, ...displayChoicesOf(query) },
  };
}

/** Chart positions of the accounts in a typed list; null when it is empty. Every part of the list must name an account. */
function onlyAccounts(books: Books, text: string): ReadonlySet<number> | null {
  if (text === '') return null;
  const parsed = parseAccountList(text);
  if (!parsed.ok) throw refused(`"${parsed.part}" is not an account or a range of accounts. Enter them like 4000-4999, 6100.`, 'accounts');
  const { ranges = [], accounts = [] } = parsed.list;
  const { accounts: chart } = books.chart;
  const numbers = chart.map(({ number }) => number);
  const empty = [
    ...ranges.flatMap((range) => (chart.some((account) => selects({ ranges: [range] }, account)) ? [] : [`${range.from}-${range.to}`])),
    ...accounts.filter((number) => !numbers.includes(number)),
  ];
  if (empty.length > 0) {
    const sorted = [...numbers].sort((a, b) => a.localeCompare(b, 'en', { numeric: true }));
    const near = [...new Set(empty.flatMap((part) => part.split('-').flatMap((end) => nearMatches(end, sorted))))];
    throw refused(
      `No account is ${empty.join(' or ')}. ${near.length > 0 ? `Near: ${near.slice(0, 8).join(', ')}.` : `Accounts run from ${sorted[0]} to ${sorted.at(-1)}.`}`,
      'accounts',
    );
  }
  return new Set(chart.flatMap((account, position) => (selects({ ranges, accounts }, account) ? [position] : [])));
}
