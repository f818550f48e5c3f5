// Runs the worker from its TypeScript source, where the application was not built (tests, development).
import { register } from 'tsx/esm/api';

register();
await import('./check-worker.ts');
