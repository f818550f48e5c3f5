import { existsSync } from 'node:fs';
import { join } from 'node:path';

import { type CompanyListDto, type DemoDto, demoSchema, type ImportDto } from '@wise-margin/contract';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';

import { startTestServer, type TestServer } from './support/server.ts';
import { ACCOUNTS, GOOD_LEDGER, NEW_COMPANY } from './support/small-ledger.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.close());

const state = async (): Promise<DemoDto> => demoSchema.parse(await server.get('/demo-companies'));
const postOwn = async (name: string): Promise<number> => {
  const made = await server.upload({ ...NEW_COMPANY, name }, { accounts: ACCOUNTS, ledger: GOOD_LEDGER });
  return ((await server.send('POST', `/imports/${made.id}/post`)).body as ImportDto).companyId!;
};
/** How many rows every table of the database holds. */
async function rowCounts(): Promise<Record<string, number>> {
  const { database, entryIndex } = server.application;
  // the index of entries follows what was added and deleted
  await entryIndex.follow();
  const tables = await database.select<{ name: string }>(
    `SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%' AND name NOT GLOB 'entry_texts_[cdi]*'`,
  );
  const counts: Record<string, number> = {};
  for (const { name } of tables) counts[name] = (await database.select<{ rows: number }>(`SELECT count(*) AS rows FROM ${name}`))[0]!.rows;
  const { audit_events: _audit, ...rest } = counts;
  return rest;
}

describe('demo companies at a click', () => {
  it('come beside a company of the person’s own and go without a trace but in the audit record', async () => {
    const own = await postOwn('Heron Street Books');
    const before = { rows: await rowCounts(), statement: await server.statement(`/companies/${own}/statements/income?asOf=2026-02`) };
    expect(await state()).toEqual({ state: 'none', companies: [], failure: null });
    expect((await server.send('DELETE', '/demo-companies')).status).toBe(404);

    const [first, second] = await Promise.all([server.send('POST', '/demo-companies'), server.send('POST', '/demo-companies')]);
    expect([first.status, second.status].sort()).toEqual([202, 409]);
    expect((await server.send('DELETE', '/demo-companies')).status).toBe(409);
    await server.application.demo.settled();
    const made = await state();
    expect(made).toMatchObject({ state: 'made', companies: [{ name: 'Tern Island Kayak Works' }, { name: 'Gannet Rock Sea Salt' }] });
    expect((await server.get<CompanyListDto>('/companies')).map(({ isDemo }) => isDemo)).toEqual([false, true, true]);
    expect((await server.send('POST', '/demo-companies')).body).toMatchObject({
      status: 409,
      detail: expect.stringContaining('Remove them first'),
    });
    const tern = await server.statement(`/companies/${made.companies[0]!.id}/statements/income?asOf=2026-10`);
    expect(tern.budgetWords).toBe('FY2027 Annual plan (approved)');

    expect((await server.send('DELETE', '/demo-companies')).status).toBe(204);
    expect(await state()).toMatchObject({ state: 'none' });
    expect(await rowCounts()).toEqual(before.rows);
    expect(await server.statement(`/companies/${own}/statements/income?asOf=2026-02`)).toEqual(before.statement);
    expect((await server.send('GET', `/companies/${made.companies[0]!.id}`)).status).toBe(404);
    expect(existsSync(join(server.directory, 'files', 'tern-island'))).toBe(false);
    const [event] = await server.application.database.select<{ details: string }>(
      `SELECT details FROM audit_events WHERE action = 'demo.remove'`,
    );
    expect(event!.details).toContain('Gannet Rock Sea Salt');
  });
  it('leave nothing behind when it fails in the middle, and say so', async () => {
    const before = await rowCounts();
    const { imports } = server.application;
    const post = imports.post.bind(imports);
    const spy = vi.spyOn(imports, 'post').mockImplementationOnce(async (...given) => {
      await post(...given);
      throw new Error('stopped after the first company was posted');
    });
    expect((await server.send('POST', '/demo-companies')).status).toBe(202);
    await server.application.demo.settled();
    spy.mockRestore();
    expect(await state()).toEqual({ state: 'failed', companies: [], failure: 'The demo companies could not be added. Try again.' });
    expect({ ...(await rowCounts()), imports: before['imports'] }).toEqual(before);
  });
  it('are refused where a company has the name of one', async () => {
    await postOwn('Gannet Rock Sea Salt');
    const { status, body } = await server.send('POST', '/demo-companies');
    expect([status, (body as { detail: string }).detail]).toEqual([409, 'A company named Gannet Rock Sea Salt is already there.']);
    expect((await state()).state).toBe('none');
  });
});

describe('sample files', () => {
  it('pass the import as they are', async () => {
    const sample = async (name: string) => (await fetch(`${server.base}/sample-files/${name}`)).text();
    const made = await server.upload(
      { ...NEW_COMPANY, name: 'From the samples' },
      { accounts: await sample('accounts'), ledger: await sample('ledger') },
    );
    expect([made.state, made.issueCount]).toEqual(['ready', 0]);
  });
  it('have no other name', async () => {
    for (const name of ['budget', '__proto__', 'constructor'])
      expect((await fetch(`${server.base}/sample-files/${name}`)).status).toBe(404);
  });
});
