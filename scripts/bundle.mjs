// Bundles what runs on Node: our own sources go in, npm packages stay outside.
import { join } from 'node:path';

import { root } from './steps.mjs';

const PLACES = {
  core: 'packages/core',
  contract: 'packages/contract',
  presentation: 'packages/presentation',
  server: 'apps/server',
  demo: 'demo',
};
const ours = {
  name: 'workspace-packages',
  setup(context) {
    context.onResolve({ filter: /^@wise-margin\// }, ({ path }) => ({
      path: join(root, PLACES[path.split('/')[1]], 'src/index.ts'),
      sideEffects: false,
    }));
  },
};

export const CHECK_WORKER = join(root, 'apps/server/src/ledger/import/check-worker.ts');

/** Writes bundles of entry points, given by the name of their file, into a folder. */
export async function bundle(entryPoints, outdir) {
  const { build } = await import('esbuild');
  await build({
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    packages: 'external',
    // what a worker reads only when it is asked for it stays in files of its own
    splitting: true,
    sourcemap: true,
    logLevel: 'warning',
    plugins: [ours],
    entryPoints,
    outdir,
  });
}
