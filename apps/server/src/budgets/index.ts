export { BudgetStore } from './store.ts';
export type { StoredBudget, StoredLine } from './store.ts';
export { BudgetService } from './service.ts';
export { budgetRoutes } from './routes.ts';
