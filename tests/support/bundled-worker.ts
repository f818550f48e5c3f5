import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

import { bundle, CHECK_WORKER } from '../../scripts/bundle.mjs';

const folder = fileURLToPath(new URL('../../.cache/test-worker', import.meta.url));

/** Bundles the worker that checks imports as the build does: loading its sources one by one takes longer than most checks. */
export default async function bundleWorker(): Promise<void> {
  await bundle({ 'check-worker': CHECK_WORKER }, folder);
  process.env['WISE_MARGIN_CHECK_WORKER'] = join(folder, 'check-worker.js');
}
