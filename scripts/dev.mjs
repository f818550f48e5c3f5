// npm run dev: the server from source, restarted when a file changes, and Vite with hot reload, on demo data.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { bin, install, makeDemoData, node, root, say } from './steps.mjs';

const API = 4180;
const WEB = 4181;
await install();
const data = process.env.WISE_MARGIN_DATA ?? join(root, 'demo-data');
await makeDemoData(data, ['--import', 'tsx', 'apps/cli/src/bin.ts']);
const children = [
  spawn(node, [bin('tsx/dist/cli.mjs'), 'watch', '--clear-screen=false', 'apps/server/src/main.ts'], {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, PORT: String(API), WISE_MARGIN_DATA: data },
  }),
  spawn(node, [bin('vite/bin/vite.js')], { cwd: join(root, 'apps/web'), stdio: 'inherit' }),
];
say(`Application with hot reload: http://localhost:${WEB}\nAPI: http://localhost:${API}/api/openapi.json`);
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => children.forEach((child) => child.kill(signal)));
