import {
  drillDownQuerySchema,
  drillDownSchema,
  figureGroupsQuerySchema,
  figureGroupsSchema,
  lineTrendQuerySchema,
  lineTrendsSchema,
  packedGridSchema,
  previewRequestSchema,
  previewSchema,
  statementQuerySchema,
  stripSchema,
} from '@wise-margin/contract';
import { packGrid } from '@wise-margin/presentation';

import { ChangeLog } from '../budget-store/index.ts';
import type { LogoStore } from '../companies/index.ts';
import type { Actor } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import { type Route, route } from '../http/route.ts';
import type { WorkPool } from '../work/work-pool.ts';
import { drillDownOf, withLastChanges } from './drill-down/drill-down.ts';
import { figureGroupsOf } from './drill-down/figure-groups.ts';
import { exportRoutes } from './export/routes.ts';
import { STATEMENT } from './paths.ts';
import type { StatementService } from './service.ts';
import { viewRoutes } from './views/routes.ts';
import type { ViewStore } from './views/view-store.ts';

type Services = {
  readonly statements: StatementService;
  readonly views: ViewStore;
  readonly logos: LogoStore;
  readonly work: WorkPool;
  readonly actor: Actor;
  readonly database: Database;
};

/** Views, their statements, what is behind the figures, and exports. */
export const statementRoutes = (services: Services): readonly Route[] => [
  ...viewRoutes(services.views, services.actor),
  ...gridRoutes(services.statements, new ChangeLog(services.database)),
  ...exportRoutes(services),
];

const gridRoutes = (statements: StatementService, changes: ChangeLog): readonly Route[] => [
  route({
    method: 'post',
    path: '/companies/:company/statement-preview',
    summary: 'A statement that is not saved',
    request: { body: previewRequestSchema },
    response: previewSchema,
    handle: async ({ path, body }) => {
      const { grid, coverage } = await statements.preview(path.company, body);
      return { grid: packGrid(grid), coverage };
    },
  }),
  route({
    method: 'get',
    path: '/companies/:company/period-strip',
    summary: 'Operating income by month',
    request: { query: statementQuerySchema },
    response: stripSchema,
    handle: ({ path, query }) => statements.strip(path.company, query),
  }),
  route({
    method: 'get',
    path: STATEMENT,
    summary: 'A view',
    request: { query: statementQuerySchema },
    response: packedGridSchema,
    handle: async ({ path, query }) => packGrid(await statements.statement(path.company, path.view, query)),
  }),
  route({
    method: 'get',
    path: `${STATEMENT}/drill-down/groups`,
    summary: 'An amount by account, month or dimension',
    request: { query: figureGroupsQuerySchema },
    response: figureGroupsSchema,
    handle: async ({ path, query }) => {
      const { books, grid } = await statements.evaluated(path.company, path.view, query);
      return figureGroupsOf(books, grid, query);
    },
  }),
  route({
    method: 'get',
    path: `${STATEMENT}/drill-down`,
    summary: 'Drill-down of an amount',
    request: { query: drillDownQuerySchema },
    response: drillDownSchema,
    handle: async ({ path, query }) => {
      const { books, grid, standing, run } = await statements.evaluated(path.company, path.view, query);
      const drillDown = drillDownOf({ books, grid, standing, line: query.line, column: query.column, drafts: run.drafts });
      return withLastChanges(drillDown, changes);
    },
  }),
  route({
    method: 'get',
    path: `${STATEMENT}/line-trends`,
    summary: 'Lines by month',
    request: { query: lineTrendQuerySchema },
    response: lineTrendsSchema,
    handle: ({ path, query }) => statements.lineTrends(path.company, path.view, query),
  }),
];
