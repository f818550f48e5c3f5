import { execFileSync } from 'node:child_process';
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { ternIslandFiles } from '@wise-margin/demo';
import { startProcess, temporaryFolder } from '../support/process.ts';

const root = fileURLToPath(new URL('../..', import.meta.url));

/** Makes the data that journeys begin with, once: the demo data, and the ledger of the kayak company alone. Each worker takes copies. */
export default async function makeJourneyData(): Promise<() => void> {
  const folder = temporaryFolder();
  process.env['JOURNEY_DATA'] = folder;
  execFileSync(process.execPath, [join(root, 'apps/cli/dist/bin.js'), 'demo', '--data', join(folder, 'demo')], { stdio: 'ignore' });
  await makeLedger(join(folder, 'ledger'), join(folder, 'files'));
  return () => rmSync(folder, { recursive: true, force: true });
}

async function makeLedger(data: string, files: string): Promise<void> {
  mkdirSync(files);
  const { accounts, ledger } = ternIslandFiles();
  for (const [name, text] of Object.entries({ accounts, ledger })) writeFileSync(join(files, `${name}.csv`), text);
  const server = await startProcess(data);
  const target = { name: 'Tern Island Kayak Works', currency: 'USD', startMonth: '4', hasAdjustmentPeriod: 'true' };
  const made = await server.upload(target, { accounts: join(files, 'accounts.csv'), ledger: join(files, 'ledger.csv') });
  await fetch(`${server.base}/imports/${made.id}/post`, { method: 'POST' });
  await server.stop('SIGTERM');
}
