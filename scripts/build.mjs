// Builds the web application with Vite, and the server, its import worker and the command line with esbuild.
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { bin, mustRun, node, root } from './steps.mjs';

const { build } = await import('esbuild');
const common = {
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  packages: 'external',
  // what a worker reads only when it is asked for it stays in files of its own
  splitting: true,
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
    context.onResolve({ filter: /^@wise-margin\// }, ({ path }) => ({
      path: join(root, places[path.split('/')[1]], 'src/index.ts'),
      sideEffects: false,
    }));
  },
};
const server = join(root, 'apps/server');
const worker = join(server, 'src/ledger/import/check-worker.ts');
const tasks = join(server, 'src/task-worker.ts');
const outdir = join(server, 'dist');
rmSync(outdir, { recursive: true, force: true });
// apart, so that what the worker shares with the server does not bring the rest of the server into every thread
for (const entryPoints of [{ main: join(server, 'src/main.ts'), 'check-worker': worker }, { 'task-worker': tasks }])
  await build({ ...common, plugins: [ours], entryPoints, outdir });
const commands = join(root, 'apps/cli/dist');
rmSync(commands, { recursive: true, force: true });
await build({
  ...common,
  plugins: [ours],
  entryPoints: { bin: join(root, 'apps/cli/src/bin.ts'), 'check-worker': worker },
  outdir: commands,
});
await mustRun(node, [bin('vite/bin/vite.js'), 'build', '--logLevel', 'warn'], { cwd: join(root, 'apps/web') });
