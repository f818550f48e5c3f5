export { EntryIndex } from './entry-index.ts';
export { SearchService } from './search-service.ts';
export { searchRoutes } from './routes.ts';
