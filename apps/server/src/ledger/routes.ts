import {
  accountListSchema,
  accountsQuerySchema,
  draftEntriesSchema,
  entriesQuerySchema,
  entryLinesSchema,
  entrySchema,
} from '@wise-margin/contract';

import { type Route, route } from '../http/route.ts';
import type { LedgerService } from './service.ts';

/** Accounts and entries. */
export function ledgerRoutes(ledger: LedgerService): readonly Route[] {
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
