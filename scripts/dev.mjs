// npm run dev: the server from source on 4180 and Vite on 4181, for work on the code.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { bin, install, node, root } from './steps.mjs';

await install();
const children = [
  spawn(node, ['--import', 'tsx', 'apps/server/src/main.ts'], {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, PORT: '4180', WISE_MARGIN_DATA: join(root, 'demo-data') },
  }),
  spawn(node, [bin('vite/bin/vite.js')], { cwd: join(root, 'apps/web'), stdio: 'inherit' }),
];
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => children.forEach((child) => child.kill(signal)));
