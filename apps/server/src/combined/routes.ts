import {
  combinedExportQuerySchema,
  combinedQuerySchema,
  companyGroupChangeSchema,
  companyGroupListSchema,
  companyGroupSaveSchema,
  companyGroupSchema,
  currencyCodeSchema,
  exchangeRatesSchema,
  exchangeRatesTextSchema,
  figureGroupsSchema,
  packedGridSchema,
} from '@wise-margin/contract';
import { packGrid } from '@wise-margin/presentation';
import { z } from 'zod';

import type { Actor } from '../database/audit.ts';
import { refused } from '../http/problem.ts';
import { download, type Route, route } from '../http/route.ts';
import { EXPORT_FORMATS, exportedStatement } from '../statements/index.ts';
import type { WorkPool } from '../work/work-pool.ts';
import type { CombinedService } from './combined-service.ts';
import type { CurrencyPair, RateStore } from './rate-store.ts';

type Services = {
  readonly combinedStatements: CombinedService;
  readonly exchangeRates: RateStore;
  readonly work: WorkPool;
  readonly actor: Actor;
};
const GROUPS = '/company-groups';
const GROUP = `${GROUPS}/:companyGroup` as const;
const STATEMENT = `${GROUP}/statements/:view` as const;
const figureQuerySchema = combinedQuerySchema.extend({
  line: z.string().max(300),
  column: z.string().max(300),
  by: z.enum(['company', 'account', 'month']),
});

/** Groups of companies, their combined statements, and exchange rates. */
export const combinedRoutes = (services: Services): readonly Route[] => [
  ...groupRoutes(services),
  ...statementRoutes(services),
  ...rateRoutes(services),
];

function groupRoutes({ combinedStatements }: Services): readonly Route[] {
  return [
    route({
      method: 'get',
      path: GROUPS,
      summary: 'The company groups',
      response: companyGroupListSchema,
      handle: () => combinedStatements.list(),
    }),
    route({
      method: 'post',
      path: GROUPS,
      summary: 'Create a company group',
      request: { body: companyGroupChangeSchema },
      response: companyGroupSchema,
      status: 201,
      handle: ({ body }) => combinedStatements.create(body),
    }),
    route({
      method: 'get',
      path: GROUP,
      summary: 'A company group',
      response: companyGroupSchema,
      handle: ({ path }) => combinedStatements.of(path.companyGroup),
    }),
    route({
      method: 'put',
      path: GROUP,
      summary: 'Change a company group',
      request: { body: companyGroupSaveSchema },
      response: companyGroupSchema,
      handle: ({ path, body }) => combinedStatements.change(path.companyGroup, body),
    }),
    route({
      method: 'delete',
      path: GROUP,
      summary: 'Delete a company group; its companies stay',
      response: null,
      handle: ({ path }) => combinedStatements.remove(path.companyGroup),
    }),
  ];
}

function statementRoutes({ combinedStatements, work }: Services): readonly Route[] {
  return [
    route({
      method: 'get',
      path: STATEMENT,
      summary: 'A view with the figures of several companies',
      request: { query: combinedQuerySchema },
      response: packedGridSchema,
      handle: async ({ path, query }) => packGrid((await combinedStatements.evaluated(path, query)).dto()),
    }),
    route({
      method: 'get',
      path: `${STATEMENT}/figure-groups`,
      summary: 'A combined amount by company, account or month',
      request: { query: figureQuerySchema },
      response: figureGroupsSchema,
      handle: ({ path, query }) => combinedStatements.figureGroups(path, query),
    }),
    ...EXPORT_FORMATS.map(({ extension, type, summary, write }) =>
      download({
        method: 'get',
        path: `${STATEMENT}/export.${extension}`,
        summary: `${summary}, with the figures of several companies`,
        request: { query: combinedExportQuerySchema },
        type,
        handle: async ({ path, query, signal }) => {
          const statement = exportedStatement(await combinedStatements.evaluated(path, query), { query, logo: null });
          const { view, asOf } = statement.dto;
          return { content: await write(statement, { pool: work, signal }), name: `combined-${view.key}-${asOf}.${extension}` };
        },
      }),
    ),
  ];
}

/** @throws ProblemError 422 for what is no pair of two currency codes */
function pairOf({ from, to }: CurrencyPair): CurrencyPair {
  for (const code of [from, to])
    if (!currencyCodeSchema.safeParse(code).success) throw refused(`"${code}" is not a currency code such as USD.`);
  if (from === to) throw refused('Choose two different currencies.');
  return { from, to };
}

function rateRoutes({ exchangeRates, actor }: Services): readonly Route[] {
  const path = '/exchange-rates/:from/:to';
  return [
    route({
      method: 'get',
      path,
      summary: 'Exchange rates by month',
      response: exchangeRatesSchema,
      handle: ({ path: pair }) => exchangeRates.list(pairOf(pair)),
    }),
    route({
      method: 'put',
      path,
      summary: 'Set the exchange rates between two currencies from a pasted table',
      request: { body: exchangeRatesTextSchema },
      response: exchangeRatesSchema,
      handle: ({ path: pair, body }) => exchangeRates.replace(pairOf(pair), body.text, actor),
    }),
  ];
}
