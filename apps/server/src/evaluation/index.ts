export { BenchmarkStore } from './benchmark-store.ts';
export { Evaluator } from './evaluator.ts';
export type { Evaluation } from './evaluator.ts';
export type { Scenarios, StandingBudget } from './scenario-cache.ts';
export { ScenarioKeeper } from './scenario-cache.ts';
