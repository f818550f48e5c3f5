import { appendFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

import type { ImportDto, ReportDto } from '@wise-margin/contract';
import { afterAll, describe, expect, it } from 'vitest';

import { largeAccountsCsv, writeLargeLedger } from '../support/large-ledger.ts';
import { type ServerProcess, startProcess, temporaryFolder } from '../support/process.ts';
import { ACCOUNTS, GOOD_LEDGER, NEW_COMPANY } from '../support/small-ledger.ts';

const folder = temporaryFolder();
const servers: ServerProcess[] = [];
const start = async (data: string): Promise<ServerProcess> => {
  const server = await startProcess(data);
  servers.push(server);
  return server;
};
afterAll(() => {
  // a test that failed leaves its server running
  for (const { child } of servers) child.kill('SIGKILL');
  rmSync(folder, { recursive: true, force: true });
});
const write = (name: string, text: string): string => {
  const path = join(folder, name);
  writeFileSync(path, text);
  return path;
};

describe('the process is killed in the middle of an import', () => {
  it('leaves nothing of it, keeps the trial balance, and can post it after the restart', async () => {
    const data = join(folder, 'killed');
    let server = await start(data);
    const first = await server.upload(NEW_COMPANY, { accounts: write('a.csv', ACCOUNTS), ledger: write('l.csv', GOOD_LEDGER) });
    await fetch(`${server.base}/imports/${first.id}/post`, { method: 'POST' });
    const before = await server.get<ReportDto>('/companies/1/reports/trial-balance?limit=2000&range=2026-12');
    expect(before.sides!.debits).toBeGreaterThan(0);

    const rows = ['entry,date,account,debit,credit'];
    for (let entry = 0; entry < 40_000; entry += 1) rows.push(`K${entry},2026-05-01,1000,1.00,`, `K${entry},2026-05-01,4000,,1.00`);
    const large = await server.upload({ company: '1' }, { ledger: write('large.csv', `${rows.join('\n')}\n`) });
    expect(large.state).toBe('ready');
    const posting = fetch(`${server.base}/imports/${large.id}/post`, { method: 'POST' }).catch(() => 'cut off');
    const inTheMiddle = async (): Promise<boolean> => {
      const { state, rowsRead } = await server.get<ImportDto>(`/imports/${large.id}`);
      return state === 'posting' && rowsRead > 5_000 && rowsRead < 75_000;
    };
    while (!(await inTheMiddle())) await new Promise((resolve) => setTimeout(resolve, 5));
    expect(await server.stop('SIGKILL')).toEqual([null, 'SIGKILL']);
    expect(await posting).toBe('cut off');

    server = await start(data);
    expect(await server.get<ReportDto>('/companies/1/reports/trial-balance?limit=2000&range=2026-12')).toEqual(before);
    expect(await server.get(`/companies/1/accounts/4000/entries?from=2026-05&to=2026-05`)).toMatchObject({ count: 0 });
    expect(await server.get<ImportDto>(`/imports/${large.id}`)).toMatchObject({ state: 'ready' });
    expect((await fetch(`${server.base}/imports/${large.id}/post`, { method: 'POST' })).status).toBe(200);
    expect((await server.get<ReportDto>('/companies/1/reports/trial-balance?limit=2000&range=2026-12')).sides!.debits).toBe(
      before.sides!.debits + 4_000_000,
    );
    expect(await server.stop('SIGTERM')).toEqual([0, null]);
  });
});

describe('a file of 200 MB', () => {
  it('is read as a stream in bounded memory, and its one bad row at the end is found', async () => {
    const server = await start(join(folder, 'large'));
    const ledger = join(folder, 'ledger-200.csv');
    const rows = writeLargeLedger(ledger, {
      lines: 200_000,
      accounts: 100,
      years: 3,
      departments: 4,
      memo: 'A memo as long as people like to write them when a file has to be large and then some more of it. '.repeat(10).trim(),
    });
    appendFileSync(ledger, 'LAST,2026-02-30,10000,1.00,,,,,,,,,\n');
    expect(statSync(ledger).size).toBeGreaterThan(200e6);
    const made = await server.upload(NEW_COMPANY, { accounts: write('large-accounts.csv', largeAccountsCsv(100)), ledger });
    expect(made).toMatchObject({ state: 'refused', issueCount: 1, issues: [{ row: rows + 2, column: 'date', code: 'impossibleDate' }] });
    expect(server.peakMegabytes()).toBeLessThan(600);
    await server.stop('SIGTERM');
  }, 180_000);
});
