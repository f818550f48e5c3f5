// npm run demo: installs, builds, makes the demo data once, and starts the application.
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { build, install, makeDemoData, root, serve } from './steps.mjs';

await install();
await build();
const data = process.env.WISE_MARGIN_DATA ?? join(root, 'demo-data');
if (process.argv.includes('--fresh')) rmSync(data, { recursive: true, force: true });
await makeDemoData(data, [join(root, 'apps/cli/dist/bin.js')]);
serve(data);
