// npm run demo: installs, builds, makes the demo data once, and starts the application.
import { existsSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { build, install, mustRun, node, root, say, serve } from './steps.mjs';

await install();
await build();
const data = process.env.WISE_MARGIN_DATA ?? join(root, 'demo-data');
if (process.argv.includes('--fresh')) rmSync(data, { recursive: true, force: true });
if (!existsSync(join(data, 'wise-margin.sqlite'))) {
  say('Making the demo companies: two ledgers and their budgets, about ten seconds.');
  // Made beside its place and moved there whole, so that a stop in the middle leaves no half of it.
  const making = `${data}.making`;
  rmSync(making, { recursive: true, force: true });
  await mustRun(node, [join(root, 'apps/cli/dist/bin.js'), 'demo', '--data', making]);
  rmSync(data, { recursive: true, force: true });
  renameSync(making, data);
}
serve(data);
