export { ClearingService } from './clearing-service.ts';
export { RECONCILIATION_TASKS } from './match-task.ts';
export { ReconciliationService } from './reconciliation-service.ts';
export { StatementImport } from './statement-import.ts';
export { StatementStore } from './statement-store.ts';
export { reconciliationRoutes } from './routes.ts';
