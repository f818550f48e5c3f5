import { newNonrecurringItemSchema, nonrecurringListSchema, nonrecurringQuerySchema } from '@wise-margin/contract';

import type { Actor } from '../../database/audit.ts';
import { type Route, route } from '../../http/route.ts';
import type { NonrecurringService } from './nonrecurring-service.ts';

/** Entries and months that are left out of the history budgets are based on. */
export function nonrecurringRoutes(nonrecurring: NonrecurringService, actor: Actor): readonly Route[] {
  const itemsPath = '/companies/:company/nonrecurring-items';
  return [
    route({
      method: 'get',
      path: itemsPath,
      summary: 'Nonrecurring items',
      request: { query: nonrecurringQuerySchema },
      response: nonrecurringListSchema,
      handle: ({ path, query }) => nonrecurring.list(path.company, query.account),
    }),
    route({
      method: 'post',
      path: itemsPath,
      summary: 'Exclude an entry or a month',
      request: { body: newNonrecurringItemSchema },
      response: nonrecurringListSchema,
      status: 201,
      handle: ({ path, body }) => nonrecurring.add(path.company, body, actor),
    }),
    route({
      method: 'delete',
      path: `${itemsPath}/:nonrecurringItem`,
      summary: 'Include again',
      response: null,
      handle: ({ path }) => nonrecurring.remove(path.company, path.nonrecurringItem, actor),
    }),
  ];
}
