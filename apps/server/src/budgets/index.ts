export { BudgetStore } from './store.ts';
export type { StoredBudget } from './store.ts';
export { DeskService } from './desk-service.ts';
export { BudgetService } from './service.ts';
export { OneOffService } from './one-off-service.ts';
export { budgetRoutes, deskRoutes, oneOffRoutes } from './routes.ts';
