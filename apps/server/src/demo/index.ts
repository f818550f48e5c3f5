export { DEMO_FILES } from './demo-files.ts';
export { DemoService } from './service.ts';
export { demoRoutes } from './routes.ts';
