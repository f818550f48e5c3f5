export { StatementService } from './service.ts';
export { EXPORT_TASKS } from './export/export-formats.ts';
export { cellText, gridCsv, ratioNumber } from './export/statement-csv.ts';
export { statementRoutes } from './routes.ts';
export { ViewStore } from './views/view-store.ts';
export { coverageDto, YEAR_TO_DATE } from './coverage.ts';
