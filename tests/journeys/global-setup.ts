import { execFile } from 'node:child_process';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';

import { madeOnce } from '../support/made-once.ts';
import { startFolders, startProcess } from '../support/process.ts';

const root = fileURLToPath(new URL('../..', import.meta.url));

/**
 * Makes the data that journeys begin with, once: the demo data, and the ledger of the kayak company alone. Each worker
 * takes copies, and one process serves them all.
 * @returns what ends it
 */
export default async function beginJourneys(): Promise<() => Promise<void>> {
  const made = madeOnce('journeys', async (folder) => {
    await makeDemo(join(folder, 'demo'));
    await makeLedger(join(folder, 'ledger'), join(folder, 'demo/files/tern-island'));
  });
  const [data, folders] = await Promise.all([made, startFolders()]);
  process.env['JOURNEY_DATA'] = data;
  process.env['JOURNEY_FOLDERS'] = folders.address;
  return folders.stop;
}

async function makeDemo(data: string): Promise<void> {
  await promisify(execFile)(process.execPath, [join(root, 'apps/cli/dist/bin.js'), 'demo', '--data', data]);
}

async function makeLedger(data: string, files: string): Promise<void> {
  const server = await startProcess(data);
  const target = { name: 'Tern Island Kayak Works', currency: 'USD', startMonth: '4', hasAdjustmentPeriod: 'true' };
  const made = await server.upload(target, { accounts: join(files, 'accounts.csv'), ledger: join(files, 'ledger.csv') });
  await fetch(`${server.base}/imports/${made.id}/post`, { method: 'POST' });
  await server.stop('SIGTERM');
}
