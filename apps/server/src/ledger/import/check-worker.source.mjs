// Runs the worker where the application was not built: bundled beforehand by tests, otherwise from its TypeScript source.
import { pathToFileURL } from 'node:url';

const bundled = process.env.WISE_MARGIN_CHECK_WORKER;
if (bundled) await import(pathToFileURL(bundled));
else {
  const { register } = await import('tsx/esm/api');
  register();
  await import('./check-worker.ts');
}
