export { companyRunRoutes } from './routes.ts';
export { CompanyRuns } from './run-service.ts';
export { RunStore } from './run-store.ts';
