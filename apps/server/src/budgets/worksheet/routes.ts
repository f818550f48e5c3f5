import {
  budgetChangesQuerySchema,
  budgetEditRequestSchema,
  rederiveRequestSchema,
  sessionQuerySchema,
  stepRequestSchema,
  worksheetAnswerSchema,
  worksheetSchema,
} from '@wise-margin/contract';

import type { Actor } from '../../database/audit.ts';
import { type Route, route } from '../../http/route.ts';
import { BUDGET } from '../paths.ts';
import type { WorksheetService } from './worksheet-service.ts';

/** A budget at work: all its worksheet draws on, edits, undo and redo, and what was saved since. */
export const worksheetRoutes = (worksheets: WorksheetService, actor: Actor): readonly Route[] => [
  route({
    method: 'get',
    path: `${BUDGET}/worksheet`,
    summary: 'A budget with the history it is calculated from',
    request: { query: sessionQuerySchema },
    response: worksheetSchema,
    handle: ({ path, query }) => worksheets.worksheet(path, query.session),
  }),
  route({
    method: 'post',
    path: `${BUDGET}/edits`,
    summary: 'Apply edits as entered; rejected edits are listed and the others are applied',
    request: { body: budgetEditRequestSchema },
    response: worksheetAnswerSchema,
    handle: ({ path, body }) => worksheets.edit(path, body, actor),
  }),
  route({
    method: 'post',
    path: `${BUDGET}/recalculate`,
    summary: 'Recalculate lines from their bases',
    request: { body: rederiveRequestSchema },
    response: worksheetAnswerSchema,
    handle: ({ path, body }) => worksheets.rederive(path, body, actor),
  }),
  route({
    method: 'post',
    path: `${BUDGET}/undo`,
    summary: 'Undo the latest change of a session',
    request: { body: stepRequestSchema },
    response: worksheetAnswerSchema,
    handle: ({ path, body }) => worksheets.undo(path, body, actor),
  }),
  route({
    method: 'post',
    path: `${BUDGET}/redo`,
    summary: 'Redo the change that was undone',
    request: { body: stepRequestSchema },
    response: worksheetAnswerSchema,
    handle: ({ path, body }) => worksheets.redo(path, body, actor),
  }),
  route({
    method: 'get',
    path: `${BUDGET}/changes`,
    summary: 'Changes since a version',
    request: { query: budgetChangesQuerySchema },
    response: worksheetAnswerSchema,
    handle: ({ path, query }) => worksheets.changesSince(path, query),
  }),
];
