// Builds the web application with Vite, and the server, its workers and the command line with esbuild.
import { rmSync } from 'node:fs';
import { join } from 'node:path';

import { bundle, CHECK_WORKER } from './bundle.mjs';
import { bin, mustRun, node, root } from './steps.mjs';

const server = join(root, 'apps/server');
const outdir = join(server, 'dist');
rmSync(outdir, { recursive: true, force: true });
// apart, so that what a worker shares with the server does not bring the rest of the server into every thread
for (const entryPoints of [
  { main: join(server, 'src/main.ts'), serve: join(server, 'src/serve.ts') },
  { 'check-worker': CHECK_WORKER },
  { 'task-worker': join(server, 'src/task-worker.ts') },
])
  await bundle(entryPoints, outdir);
const commands = join(root, 'apps/cli/dist');
rmSync(commands, { recursive: true, force: true });
await bundle({ bin: join(root, 'apps/cli/src/bin.ts') }, commands);
await bundle({ 'check-worker': CHECK_WORKER }, commands);
await mustRun(node, [bin('vite/bin/vite.js'), 'build', '--logLevel', 'warn'], { cwd: join(root, 'apps/web') });
