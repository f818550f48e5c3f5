export { BenchmarkStore } from './benchmark-store.ts';
export { benchmarkRoutes } from './routes.ts';
export { Evaluator } from './evaluator.ts';
export type { Evaluation } from './evaluator.ts';
export type { Scenarios, ShownBudget } from './scenario-cache.ts';
export { ScenarioCache } from './scenario-cache.ts';
export { PlanCache } from './plan-cache.ts';
