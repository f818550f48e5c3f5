export { ClearingService } from './clearing-service.ts';
export { ReconciliationService } from './reconciliation-service.ts';
export { StatementImport } from './statement-import.ts';
export { StatementStore } from './statement-store.ts';
export { reconciliationRoutes } from './routes.ts';
