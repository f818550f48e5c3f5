export { Explainer } from './explainer.ts';
export { FindingList } from './finding-list.ts';
export { FindingRecords } from './finding-records.ts';
export { MaterialityStore } from './materiality-store.ts';
export { findingRoutes } from './routes.ts';
