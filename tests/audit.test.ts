import { type AuditTrailDto, auditTrailSchema, type AuditVerificationDto, auditVerificationSchema } from '@wise-margin/contract';
import papaparse from 'papaparse';
import sqlite3 from 'sqlite3';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import type { TestServer } from './support/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await demoServer();
  await server.send('PUT', '/companies/1/benchmarks', { line: 'gross_margin', kind: 'industry', value: 0.52 });
});
afterAll(() => server.close());

const trail = async (query = ''): Promise<AuditTrailDto> => auditTrailSchema.parse(await server.get(`/companies/1/audit?${query}`));
const verification = async (): Promise<AuditVerificationDto> => auditVerificationSchema.parse(await server.get('/audit/verification'));
/** Changes the database file past the application, as somebody with access to it could. */
const tamper = (statements: string): Promise<void> =>
  new Promise((resolve, reject) => {
    const database = new sqlite3.Database(`${server.directory}/wise-margin.sqlite`);
    database.exec(`DROP TRIGGER IF EXISTS audit_events_no_update; DROP TRIGGER IF EXISTS audit_events_no_delete; ${statements}`, (error) =>
      database.close(() => (error ? reject(error) : resolve())),
    );
  });

describe('the audit trail', () => {
  it('lists every change of a company, the newest first, in words', async () => {
    const { events, count, next } = await trail();
    expect(events.map(({ words }) => words)).toEqual(
      expect.arrayContaining(['Import 1 posted', 'Plan: Created from FY2026', expect.stringMatching(/^Plan: Approved/)]),
    );
    expect(events.map(({ id }) => id)).toEqual([...events.map(({ id }) => id)].sort((a, b) => b - a));
    expect([count, next]).toEqual([events.length, null]);
    expect(new Set(events.map(({ actor }) => actor))).toEqual(new Set(['Tester']));
  });

  it('comes page by page', async () => {
    const all = await trail();
    const first = await trail('limit=2');
    const second = await trail(`limit=2&before=${first.next}`);
    expect([...first.events, ...second.events]).toEqual(all.events.slice(0, 4));
    expect(first.count).toBe(all.count);
  });

  it('keeps to an area, a day and a text', async () => {
    expect((await trail('area=ledger')).events.map(({ words }) => words)).toEqual(['Import 1 posted']);
    expect((await trail('area=settings&find=GROSS_margin')).count).toBe(1);
    expect((await trail('from=2026-11-09&to=2026-11-09')).count).toBe((await trail()).count);
    expect((await trail('from=2026-11-10')).count).toBe(0);
    expect((await trail('to=2026-11-08')).count).toBe(0);
    expect((await server.send('GET', '/companies/1/audit?area=other')).status).toBe(422);
    expect((await server.send('GET', '/companies/9/audit')).status).toBe(404);
  });

  it('leaves as a file, oldest first', async () => {
    const text = await (await fetch(`${server.base}/companies/1/audit/export.csv?area=budgets`)).text();
    const rows = papaparse.parse<Record<string, string>>(text, { header: true, skipEmptyLines: true }).data;
    expect(rows.map(({ event }) => Number(event))).toEqual((await trail('area=budgets')).events.map(({ id }) => id).reverse());
  });
});

describe('a change of the database file past the application', () => {
  it('is found: a row changed, removed, inserted', async () => {
    const { events } = await verification();
    expect(await verification()).toEqual({ events, faults: [] });
    await tamper(`UPDATE audit_events SET actor = 'Nobody' WHERE id = 2`);
    expect((await verification()).faults).toEqual([
      { id: 2, kind: 'changed', words: expect.stringMatching(/^Event 2 was changed: .* by Nobody/) },
    ]);
    await tamper(`UPDATE audit_events SET actor = 'Tester' WHERE id = 2; DELETE FROM audit_events WHERE id = 3`);
    expect((await verification()).faults).toEqual([{ id: 3, kind: 'removed', words: 'Event 3 was removed.' }]);
    await tamper(
      `INSERT INTO audit_events (id, company_id, at, actor, action, subject, details, previous_hash, hash)
       SELECT ${events + 1}, 1, at, actor, action, subject, details, hash, hash FROM audit_events WHERE id = ${events}`,
    );
    expect((await verification()).faults.map(({ id }) => id)).toEqual([3, events + 1]);
  });
});
