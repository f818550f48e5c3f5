import {
  changePeriodSchema,
  lastActualSchema,
  ledgerPeriodsSchema,
  periodPeopleSchema,
  periodQuerySchema,
  unfinishedSchema,
} from '@wise-margin/contract';

import type { Actor } from '../../database/audit.ts';
import { type Route, route } from '../../http/route.ts';
import type { PeriodService } from './period-service.ts';

const PERIODS = '/companies/:company/periods';

/** Periods of the ledger: open, soft-closed, closed. */
export const periodRoutes = ({ periods, actor }: { readonly periods: PeriodService; readonly actor: Actor }): readonly Route[] => [
  route({
    method: 'get',
    path: PERIODS,
    summary: 'Periods, the latest first, and who may post in soft-closed ones',
    response: ledgerPeriodsSchema,
    handle: ({ path }) => periods.list(path.company),
  }),
  route({
    method: 'get',
    path: `${PERIODS}/unfinished`,
    summary: 'What is unfinished in a period',
    request: { query: periodQuerySchema },
    response: unfinishedSchema,
    handle: ({ path, query }) => periods.unfinished(path.company, query),
  }),
  route({
    method: 'put',
    path: PERIODS,
    summary: 'Open, soft-close or close a period',
    request: { body: changePeriodSchema },
    response: ledgerPeriodsSchema,
    handle: ({ path, body }) => periods.change(path.company, body, actor),
  }),
  route({
    method: 'put',
    path: `${PERIODS}/last-actual`,
    summary: 'Choose the last month of actuals, or go back to the proposed one',
    request: { body: lastActualSchema },
    response: ledgerPeriodsSchema,
    handle: ({ path, body }) => periods.setLastActual(path.company, body.month, actor),
  }),
  route({
    method: 'put',
    path: `${PERIODS}/people`,
    summary: 'Set who may post in soft-closed periods',
    request: { body: periodPeopleSchema },
    response: ledgerPeriodsSchema,
    handle: ({ path, body }) => periods.setPeople(path.company, body.people, actor),
  }),
];
