import { type DimensionFilter, type LineQuery, passes } from '@wise-margin/core';

import { type Books, PARTY, refuseUnknownFilter, SOURCE } from '../../companies/index.ts';

/**
 * A filter as a table of lines reads it: the ledger's own dimensions by their combinations, customers or vendors, journals.
 * @throws ProblemError 422 for a value that can match nothing
 */
export function lineFilter(books: Books, filter: DimensionFilter): Pick<LineQuery, 'combinations' | 'parties' | 'sources'> {
  refuseUnknownFilter(books, filter);
  const { [PARTY]: parties, [SOURCE]: sources, ...dimensions } = filter;
  return {
    ...(Object.keys(dimensions).length === 0
      ? {}
      : { combinations: new Set([...books.combinations].flatMap(([id, values]) => (passes(dimensions, values) ? [id] : []))) }),
    ...(parties ? { parties: new Set(parties.map((name) => (name === '' ? -1 : books.parties.indexOf(name)))) } : {}),
    ...(sources ? { sources: new Set(sources.map((name) => books.sourceJournals.indexOf(name))) } : {}),
  };
}
