export { LedgerService } from './service.ts';
export { ImportService } from './import/service.ts';
export { ledgerRoutes } from './routes.ts';
export { importRoutes } from './import/routes.ts';
