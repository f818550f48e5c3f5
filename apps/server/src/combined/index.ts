export { CombinedBooksCache } from './combined-books.ts';
export { CombinedService } from './combined-service.ts';
export { GroupStore } from './group-store.ts';
export { RateStore } from './rate-store.ts';
export { combinedRoutes } from './routes.ts';
