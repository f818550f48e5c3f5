export { BudgetStore } from './store.ts';
export type { StoredBudget } from './store.ts';
export { DeskService } from './desk-service.ts';
export { BudgetService } from './service.ts';
export { ExchangeService } from './exchange-service.ts';
export { exchangeRoutes } from './exchange-routes.ts';
export { PlanService } from './plan-service.ts';
export { OneOffService } from './one-off-service.ts';
export { budgetRoutes, deskRoutes, oneOffRoutes, planRoutes } from './routes.ts';
