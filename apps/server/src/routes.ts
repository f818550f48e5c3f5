import type { Application } from './application.ts';
import { auditRoutes } from './audit/index.ts';
import { budgetRoutes } from './budgets/index.ts';
import { combinedRoutes } from './combined/index.ts';
import { companyRoutes } from './companies/index.ts';
import { companyRunRoutes } from './company-runs/index.ts';
import { demoRoutes } from './demo/index.ts';
import { benchmarkRoutes } from './evaluation/index.ts';
import { findingRoutes } from './findings/index.ts';
import { serverRoutes } from './http/openapi.ts';
import type { Route } from './http/route.ts';
import {
  entryChangeRoutes,
  entryListRoutes,
  importRoutes,
  ledgerRoutes,
  periodRoutes,
  reportRoutes,
  statisticsRoutes,
} from './ledger/index.ts';
import { mailRoutes } from './mail/index.ts';
import { packRoutes, shareRoutes } from './packs/index.ts';
import { reconciliationRoutes } from './reconciliation/index.ts';
import { scheduleRoutes } from './schedules/index.ts';
import { searchRoutes } from './search/index.ts';
import { statementRoutes } from './statements/index.ts';

/** Every path of the API, below `/api`; it is served and described from this list. */
export function routesOf(application: Application): readonly Route[] {
  const services = { ...application, directory: application.database.directory };
  const routes = [
    ...companyRoutes(services),
    ...demoRoutes(services.demo),
    // its file before an entry of any name
    ...entryListRoutes(services),
    ...ledgerRoutes(services),
    ...entryChangeRoutes(services),
    ...periodRoutes(services),
    ...reportRoutes(services),
    ...importRoutes(services),
    ...statisticsRoutes(services),
    ...budgetRoutes(services),
    ...benchmarkRoutes(services.benchmarks, services.actor),
    ...statementRoutes(services),
    ...combinedRoutes(services),
    ...auditRoutes(services),
    ...reconciliationRoutes(services),
    ...findingRoutes(services),
    ...packRoutes(services),
    ...shareRoutes(services.packShares),
    ...mailRoutes(services),
    ...scheduleRoutes(services),
    ...companyRunRoutes(services),
    ...searchRoutes(services),
  ];
  return [...routes, ...serverRoutes(routes)];
}
