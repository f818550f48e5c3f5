import { type DisplayChoices, displayChoicesOf, type RunChoices, type StatementQuery } from '@wise-margin/contract';
import { DEFAULT_DISPLAY, type DimensionFilter, type Display } from '@wise-margin/core';

import { type Books, refuseUnknownFilter, typedAccounts } from '../companies/index.ts';

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
    onlyAccounts: typedAccounts(books, accounts),
    drafts: query.drafts === undefined ? (view.choices.drafts ?? false) : query.drafts === 'yes',
    display: { ...DEFAULT_DISPLAY, ...view.display, ...displayChoicesOf(query) },
  };
}
