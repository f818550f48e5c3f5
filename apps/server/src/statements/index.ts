export { StatementService } from './service.ts';
export { Evaluator } from './evaluator.ts';
export type { Evaluation } from './evaluator.ts';
export { ScenarioKeeper } from './sources.ts';
export { cellText, gridCsv, ratioNumber } from './export-csv.ts';
export { statementRoutes } from './routes.ts';
export { ViewStore } from './view-store.ts';
export { BenchmarkStore } from './benchmark-store.ts';
