// Builds the web application with Vite, and the server, its import worker and the command line with esbuild.
import { join } from 'node:path';
import { bin, mustRun, node, root } from './steps.mjs';

const { build } = await import('esbuild');
const common = {
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  packages: 'external',
  sourcemap: true,
  logLevel: 'warning',
  alias: {},
};
// Workspace packages are our own sources and belong into the bundle; npm packages stay outside.
const ours = {
  name: 'workspace-packages',
  setup(context) {
    const places = {
      core: 'packages/core',
      contract: 'packages/contract',
      presentation: 'packages/presentation',
      server: 'apps/server',
      demo: 'demo',
    };
    context.onResolve({ filter: /^@wise-margin\// }, ({ path }) => ({ path: join(root, places[path.split('/')[1]], 'src/index.ts') }));
  },
};
const server = join(root, 'apps/server');
const worker = join(server, 'src/ledger/import/check-worker.ts');
const tasks = join(server, 'src/task-worker.ts');
await build({
  ...common,
  plugins: [ours],
  entryPoints: { main: join(server, 'src/main.ts'), 'check-worker': worker, 'task-worker': tasks },
  outdir: join(server, 'dist'),
});
await build({
  ...common,
  plugins: [ours],
  entryPoints: { bin: join(root, 'apps/cli/src/bin.ts'), 'check-worker': worker },
  outdir: join(root, 'apps/cli/dist'),
});
await mustRun(node, [bin('vite/bin/vite.js'), 'build', '--logLevel', 'warn'], { cwd: join(root, 'apps/web') });
