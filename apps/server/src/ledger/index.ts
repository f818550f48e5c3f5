export { LedgerService } from './service.ts';
export { ImportService } from './import/service.ts';
export type { Report } from './import/service.ts';
export { EntryList } from './entries/entry-list.ts';
export { entryListRoutes } from './entries/routes.ts';
export { ledgerRoutes } from './routes.ts';
export { importRoutes } from './import/routes.ts';
export { StatisticsService } from './statistics.ts';
export { statisticsRoutes } from './statistics-routes.ts';
