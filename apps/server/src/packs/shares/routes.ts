import {
  createdPackShareSchema,
  newPackShareSchema,
  packSharesSchema,
  sharedFigureQuerySchema,
  sharedFigureSchema,
  sharedPackSchema,
  sliceQuerySchema,
} from '@wise-margin/contract';

import { PDF_TYPE } from '../../formats/media-types.ts';
import { download, type Route, route } from '../../http/route.ts';
import type { ShareService } from './share-service.ts';

const SHARES = '/companies/:company/pack-issues/:packIssue/shares';
const SHARED = '/shared/:token';

/** Links to issued packs: made and withdrawn by the company's people, opened by whoever has one. */
export const shareRoutes = (shares: ShareService): readonly Route[] => [
  route({
    method: 'get',
    path: SHARES,
    summary: 'Links to an issued pack',
    response: packSharesSchema,
    handle: ({ path }) => shares.list(path),
  }),
  route({
    method: 'post',
    path: SHARES,
    summary: 'Create a link to an issued pack; its address is shown once',
    request: { body: newPackShareSchema },
    response: createdPackShareSchema,
    status: 201,
    handle: ({ path, body }) => shares.create(path, body),
  }),
  route({
    method: 'delete',
    path: `${SHARES}/:share`,
    summary: 'Withdraw a link',
    response: null,
    handle: ({ path }) => shares.revoke(path, path.share),
  }),
  route({
    method: 'get',
    path: SHARED,
    summary: 'The pack that a link leads to',
    request: { query: sliceQuerySchema },
    response: sharedPackSchema,
    handle: ({ path, query }) => shares.open(path.token, query.slice),
  }),
  route({
    method: 'get',
    path: `${SHARED}/figure`,
    summary: 'The accounts behind a figure of a shared pack',
    request: { query: sharedFigureQuerySchema },
    response: sharedFigureSchema,
    handle: ({ path, query }) => shares.figure(path.token, query),
  }),
  download({
    method: 'get',
    path: `${SHARED}/export.pdf`,
    summary: 'A shared pack as PDF, as it was issued',
    request: { query: sliceQuerySchema },
    type: PDF_TYPE,
    handle: ({ path, query }) => shares.pdf(path.token, query.slice),
  }),
];
