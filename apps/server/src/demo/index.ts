export { DemoService } from './service.ts';
export { demoRoutes } from './routes.ts';
