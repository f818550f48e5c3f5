import { searchQuerySchema, searchSchema } from '@wise-margin/contract';

import { type Route, route } from '../http/route.ts';
import type { SearchService } from './search-service.ts';

export const searchRoutes = ({ search }: { readonly search: SearchService }): readonly Route[] => [
  route({
    method: 'get',
    path: '/companies/:company/search',
    summary: 'Views, accounts, entries, budgets, findings, months, pages and commands that a text can mean',
    request: { query: searchQuerySchema },
    response: searchSchema,
    handle: ({ path, query }) => search.search(path.company, query),
  }),
];
