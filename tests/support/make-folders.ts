import { cpSync } from 'node:fs';

import type { BudgetDto, ImportDto } from '@wise-margin/contract';
import { gannetRockFiles, ternIslandFiles } from '@wise-margin/demo';

import { openDatabase } from '../../apps/server/src/database/database.ts';
import { startTestServer, type TestServer } from './server.ts';

/** A data folder as the first start makes it. */
export async function makeEmptyFolder(folder: string): Promise<void> {
  const database = await openDatabase(folder);
  await database.close();
}

/** A data folder of both demo companies. @param empty one without companies, that it begins with */
export async function makeDemoFolder(empty: string, folder: string): Promise<void> {
  const server = await startTestServer({ from: empty });
  await addCompany(server, { name: 'Tern Island', startMonth: '4', files: ternIslandFiles(), year: 2027 });
  await addCompany(server, { name: 'Gannet Rock', startMonth: '1', files: gannetRockFiles(), year: 2026 });
  // closed first, so that the copy holds what was written
  await server.close((directory) => cpSync(directory, folder, { recursive: true }));
}

async function addCompany(
  server: TestServer,
  company: {
    readonly name: string;
    readonly startMonth: string;
    readonly files: { readonly accounts: string; readonly ledger: string };
    readonly year: number;
  },
): Promise<void> {
  const { name, startMonth, files, year } = company;
  const { accounts, ledger } = files;
  const made = await server.upload({ name, currency: 'USD', startMonth, hasAdjustmentPeriod: 'true' }, { accounts, ledger });
  const { companyId } = (await server.send('POST', `/imports/${made.id}/post`, {})).body as ImportDto;
  const request = { name: 'Plan', year, from: year - 1, change: '3', changeByClass: {}, roundTo: 100 };
  const { id } = (await server.send('POST', `/companies/${companyId}/budgets`, request)).body as BudgetDto;
  await server.send('POST', `/companies/${companyId}/budgets/${id}/state`, { state: 'approved', anyway: true });
}
