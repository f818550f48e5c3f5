import { choicesSchema, newViewSchema, viewChangeSchema, viewListSchema, viewSchema } from '@wise-margin/contract';

import type { Actor } from '../../database/audit.ts';
import { type Route, route } from '../../http/route.ts';
import type { ViewStore } from './view-store.ts';

/** The views of the library. */
export function viewRoutes(views: ViewStore, actor: Actor): readonly Route[] {
  const libraryPath = '/companies/:company/views';
  const viewPath = `${libraryPath}/:view` as const;
  return [
    route({
      method: 'get',
      path: libraryPath,
      summary: 'The views of the library',
      response: viewListSchema,
      handle: ({ path }) => views.list(path.company, actor),
    }),
    route({
      method: 'post',
      path: libraryPath,
      summary: 'Save a view',
      request: { body: newViewSchema },
      response: viewSchema,
      status: 201,
      handle: ({ path, body }) => views.create(path.company, body, actor),
    }),
    route({
      method: 'get',
      path: viewPath,
      summary: 'The lines and columns of a view',
      response: viewSchema,
      handle: ({ path }) => views.of(path.company, path.view, actor),
    }),
    route({
      method: 'put',
      path: viewPath,
      summary: 'Change or star a view',
      request: { body: viewChangeSchema },
      response: viewSchema,
      handle: ({ path, body }) => views.change(path, body, actor),
    }),
    route({
      method: 'delete',
      path: viewPath,
      summary: 'Remove a saved view',
      response: null,
      handle: ({ path }) => views.remove(path.company, path.view, actor),
    }),
    route({
      method: 'put',
      path: `${viewPath}/choices`,
      summary: 'Save the latest choices for a view',
      request: { body: choicesSchema },
      response: null,
      handle: ({ path, body }) => views.remember(path, body, actor),
    }),
  ];
}
