// Runs the worker from its TypeScript source, where the application was not built (development).
import { register } from 'tsx/esm/api';

register();
export const { default: runTask } = await import('./task-worker.ts');
export default runTask;
