// npm run wm -- <verb>: the command line, built when it has to be.
import { join } from 'node:path';
import { build, install, node, root, run, sayOnStandardError } from './steps.mjs';

sayOnStandardError();
await install();
await build();
const directory = process.env.INIT_CWD ?? process.cwd();
process.exit(
  await run(node, [join(root, 'apps/cli/dist/bin.js'), ...process.argv.slice(2)], { cwd: directory, shell: false, stdio: 'inherit' }),
);
