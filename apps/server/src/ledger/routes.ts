import {
  accountListSchema,
  accountsQuerySchema,
  draftEntriesSchema,
  entriesExportQuerySchema,
  entriesQuerySchema,
  type EntryLinesDto,
  entryLinesSchema,
  entrySchema,
} from '@wise-margin/contract';
import { type Minor, toDecimalText } from '@wise-margin/core';
import { stringify } from 'csv-stringify';

import type { BooksCache } from '../companies/index.ts';
import { safeText } from '../formats/safe-text.ts';
import { download, type Route, route } from '../http/route.ts';
import type { LedgerService } from './service.ts';

/** Accounts and entries. */
export function ledgerRoutes({
  ledger,
  booksCache,
}: {
  readonly ledger: LedgerService;
  readonly booksCache: BooksCache;
}): readonly Route[] {
  return [
    route({
      method: 'get',
      path: '/companies/:company/accounts',
      summary: 'Accounts with totals by month',
      request: { query: accountsQuerySchema },
      response: accountListSchema,
      handle: ({ path, query }) => ledger.accounts(path.company, query.year),
    }),
    route({
      method: 'get',
      path: '/companies/:company/accounts/:number/entries',
      summary: 'Posted lines of an account over a span',
      request: { query: entriesQuerySchema },
      response: entryLinesSchema,
      handle: ({ path, query }) => ledger.entries(path.company, path.number, query),
    }),
    download({
      method: 'get',
      path: '/companies/:company/accounts/:number/entries/export.csv',
      summary: 'Posted lines of an account over a span, as they are listed',
      request: { query: entriesExportQuerySchema },
      type: 'text/csv',
      handle: async ({ path, query }) => {
        const { currency, dimensions } = await booksCache.of(path.company);
        const names = dimensions.map(({ name }) => name);
        const lines = linesOf((after) => ledger.entries(path.company, path.number, { ...query, after, limit: LINES_A_PART }));
        const headings = [
          'entry',
          'date',
          'account',
          'amount',
          'balance',
          'party',
          'document',
          'memo',
          'source',
          'kind',
          'state',
          ...names,
        ];
        return {
          content: [
            rowsOf(lines, { number: path.number, exponent: currency.exponent, dimensions: names }),
            stringify({ columns: headings.map(safeText), header: true }),
          ],
          name: `account-${path.number}.csv`,
        };
      },
    }),
    route({
      method: 'get',
      path: '/companies/:company/draft-entries',
      summary: 'Entries in draft, latest first',
      response: draftEntriesSchema,
      handle: ({ path }) => ledger.draftEntries(path.company),
    }),
    route({
      method: 'get',
      path: '/companies/:company/entries/:entry',
      summary: 'An entry with its two sides',
      response: entrySchema,
      handle: ({ path }) => ledger.entry(path.company, path.entry),
    }),
  ];
}

const LINES_A_PART = 2000;

/** Every line, a page at a time. */
async function* linesOf(pageAt: (after: number) => Promise<EntryLinesDto>): AsyncGenerator<EntryLinesDto['lines'][number]> {
  for (let after: number | null = 0; after !== null;) {
    const page: EntryLinesDto = await pageAt(after);
    yield* page.lines;
    after = page.next;
  }
}

async function* rowsOf(
  lines: AsyncIterable<EntryLinesDto['lines'][number]>,
  { number, exponent, dimensions }: { readonly number: string; readonly exponent: number; readonly dimensions: readonly string[] },
): AsyncGenerator<readonly string[]> {
  for await (const line of lines)
    yield [
      ...[line.entry, line.date, number].map(safeText),
      toDecimalText(line.amount as Minor, exponent),
      line.balance === null ? '' : toDecimalText(line.balance as Minor, exponent),
      ...[line.party, line.document, line.memo, line.source, line.kind, line.state].map(safeText),
      ...dimensions.map((name) => safeText(line.dimensions[name] ?? '')),
    ];
}
