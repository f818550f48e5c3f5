import { cpSync, rmSync } from 'node:fs';
import { join } from 'node:path';

import type { AuditVerificationDto, EntryListDto } from '@wise-margin/contract';
import sqlite3 from 'sqlite3';
import { afterAll, expect, inject, it } from 'vitest';

import { type ServerProcess, startProcess, temporaryFolder } from '../support/process.ts';

const KILLS = Number(process.env['KILLS'] ?? 10);
const folder = temporaryFolder();
let server: ServerProcess;
afterAll(() => {
  server.child.kill('SIGKILL');
  rmSync(folder, { recursive: true, force: true });
});

/** Rows of the database file, read while no server has it. */
const rowsOf = <Row>(sql: string): Promise<Row[]> =>
  new Promise((resolve, reject) => {
    const database = new sqlite3.Database(join(folder, 'wise-margin.sqlite'), sqlite3.OPEN_READONLY);
    database.all<Row>(sql, (error, rows) => database.close(() => (error ? reject(error) : resolve(rows))));
  });
const UNSOUND = [
  // a balance that is not the sum of its lines
  `WITH kept AS (SELECT account_id, period_code, combination_id, layer, debit, credit FROM balances),
     summed AS MATERIALIZED (SELECT l.account_id, l.period_code, l.combination_id, CASE WHEN e.state = 'draft' THEN 'draft' WHEN e.kind = 'closing' THEN 'closing' ELSE 'ordinary' END,
       sum(max(l.amount, 0)), sum(max(-l.amount, 0)) FROM lines l JOIN entries e ON e.id = l.entry_id GROUP BY 1, 2, 3, 4)
   SELECT * FROM (SELECT * FROM kept EXCEPT SELECT * FROM summed) UNION ALL SELECT * FROM (SELECT * FROM summed EXCEPT SELECT * FROM kept)`,
  'SELECT entry_id FROM lines GROUP BY entry_id HAVING sum(amount) <> 0',
  // a version without what it replaced, or a change without its record
  'SELECT id FROM entries e WHERE version - 1 <> (SELECT count(*) FROM entry_versions v WHERE v.entry_id = e.id)',
  `SELECT id FROM entry_changes c WHERE NOT EXISTS (SELECT 1 FROM audit_events WHERE json_extract(details, '$.change') = c.id)`,
  `SELECT id FROM audit_events WHERE action LIKE 'entry.%' AND json_extract(details, '$.change') NOT IN (SELECT id FROM entry_changes)`,
];

it(`holds after ${KILLS} kills at any moment while entries are reclassified: every check, and each change that was acknowledged`, async () => {
  cpSync(inject('demoFolder'), folder, { recursive: true });
  server = await startProcess(folder);
  const { lines } = await server.get<EntryListDto>('/companies/1/entries?accounts=6000-6999&limit=40');
  const moved = lines.map(({ lineId }) => lineId);
  let acknowledged = 0;
  for (let kill = 0; kill < KILLS; kill += 1) {
    let isDown = false;
    const working = (async () => {
      for (let turn = 0; !isDown; turn += 1) {
        const request = { lines: moved, account: turn % 2 === 0 ? '6410' : '6420', reason: `Turn ${turn}` };
        const response = await fetch(`${server.base}/companies/1/reclassifications`, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify(request),
        }).catch(() => null);
        if (response === null) return;
        expect(response.status).toBe(204);
        acknowledged += 1;
      }
    })();
    // moments spread over a few changes, the same on every run
    await new Promise((resolve) => setTimeout(resolve, 100 + ((kill * 137) % 400)));
    isDown = true;
    expect(await server.stop('SIGKILL')).toEqual([null, 'SIGKILL']);
    await working;
    for (const sql of UNSOUND) expect([sql, await rowsOf(sql)]).toEqual([sql, []]);
    const [made] = await rowsOf<{ count: number }>('SELECT count(*) AS count FROM entry_changes');
    // what was written and not yet acknowledged may be there, at most one a kill
    expect(made!.count).toBeGreaterThanOrEqual(acknowledged);
    expect(made!.count).toBeLessThanOrEqual(acknowledged + 1);
    acknowledged = made!.count;
    server = await startProcess(folder);
    expect((await server.get<AuditVerificationDto>('/audit/verification')).faults).toEqual([]);
  }
  expect(acknowledged).toBeGreaterThan(0);
}, 180_000);
