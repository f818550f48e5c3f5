import {
  entryExportQuerySchema,
  entryListQuerySchema,
  entryListSchema,
  foundLinesSchema,
  type ListedLineDto,
  savedFiltersSchema,
  saveFilterSchema,
} from '@wise-margin/contract';
import { type Minor, toDecimalText } from '@wise-margin/core';
import { stringify } from 'csv-stringify';

import type { BooksCache } from '../../companies/index.ts';
import { safeText } from '../../formats/safe-text.ts';
import { download, type Route, route } from '../../http/route.ts';
import type { EntryList } from './entry-list.ts';
import type { SavedFilters } from './saved-filters.ts';

const ENTRIES = '/companies/:company/entries';
const FILTERS = '/companies/:company/entry-filters';
const HEADINGS = [
  'entry',
  'date',
  'account',
  'name',
  'debit',
  'credit',
  'party',
  'document',
  'memo',
  'due',
  'source',
  'kind',
  'state',
  'import',
];

/** The list of all entries, and the same as a file. */
export const entryListRoutes = ({
  entryList,
  savedFilters,
  booksCache,
}: {
  readonly entryList: EntryList;
  readonly savedFilters: SavedFilters;
  readonly booksCache: BooksCache;
}): readonly Route[] => [
  route({
    method: 'get',
    path: ENTRIES,
    summary: 'Lines of all entries that match, with their totals',
    request: { query: entryListQuerySchema },
    response: entryListSchema,
    handle: ({ path, query }) => entryList.page(path.company, query),
  }),
  route({
    method: 'get',
    path: `${ENTRIES}/lines`,
    summary: 'The numbers of every line that matches',
    request: { query: entryExportQuerySchema },
    response: foundLinesSchema,
    handle: async ({ path, query }) => ({ lines: await entryList.lineIds(path.company, query) }),
  }),
  route({
    method: 'get',
    path: FILTERS,
    summary: 'Saved filters of the list of entries',
    response: savedFiltersSchema,
    handle: ({ path }) => savedFilters.list(path.company),
  }),
  route({
    method: 'put',
    path: FILTERS,
    summary: 'Save a filter under a name',
    request: { body: saveFilterSchema },
    response: savedFiltersSchema,
    handle: ({ path, body }) => savedFilters.save(path.company, body),
  }),
  route({
    method: 'delete',
    path: `${FILTERS}/:savedFilter`,
    summary: 'Remove a saved filter',
    response: savedFiltersSchema,
    handle: ({ path }) => savedFilters.remove(path.company, path.savedFilter),
  }),
  download({
    method: 'get',
    path: `${ENTRIES}/export.csv`,
    summary: 'Lines of all entries that match, in the order asked for',
    request: { query: entryExportQuerySchema },
    type: 'text/csv',
    handle: async ({ path, query }) => {
      const { currency, dimensions } = await booksCache.of(path.company);
      const names = dimensions.map(({ name }) => name);
      const rows = rowsOf(entryList.all(path.company, query), { exponent: currency.exponent, dimensions: names });
      return { content: [rows, stringify({ columns: [...HEADINGS, ...names].map(safeText), header: true })], name: 'entries.csv' };
    },
  }),
];

async function* rowsOf(
  parts: AsyncIterable<readonly ListedLineDto[]>,
  { exponent, dimensions }: { readonly exponent: number; readonly dimensions: readonly string[] },
): AsyncGenerator<readonly string[]> {
  const amount = (value: number): string => (value <= 0 ? '' : toDecimalText(value as Minor, exponent));
  for await (const part of parts)
    for (const line of part)
      yield [
        ...[line.entry, line.date, line.account, line.accountName].map(safeText),
        amount(line.amount),
        amount(-line.amount),
        ...[line.party, line.document, line.memo, line.due ?? '', line.source, line.kind, line.state].map(safeText),
        line.importId === null ? 'manual' : String(line.importId),
        ...dimensions.map((name) => safeText(line.dimensions[name] ?? '')),
      ];
}
