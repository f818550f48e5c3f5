export { StatementService, evaluateStatement } from './service.ts';
export { scenarioSources } from './sources.ts';
export { gridDto } from './grid-dto.ts';
export { cellText, gridCsv, ratioNumber } from './export-csv.ts';
export { statementRoutes } from './routes.ts';
