import { cpSync, rmSync } from 'node:fs';
import { join } from 'node:path';

import type { AuditVerificationDto, EntryDto, EntryListDto, ImportDto, ReportDto } from '@wise-margin/contract';
import sqlite3 from 'sqlite3';
import { afterAll, expect, inject, it } from 'vitest';

import { contentOf } from '../support/entry-content.ts';
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
  'SELECT id FROM entries e WHERE version - 1 <> (SELECT count(*) FROM entry_versions v WHERE v.entry_id = e.id AND v.version > 0)',
  `SELECT id FROM entry_changes c WHERE NOT EXISTS (SELECT 1 FROM audit_events WHERE json_extract(details, '$.change') = c.id)`,
  // an import that counts as posted without an entry
  `SELECT id FROM imports i WHERE state = 'posted' AND NOT EXISTS (SELECT 1 FROM entries WHERE import_id = i.id)`,
  `SELECT id FROM audit_events WHERE action LIKE 'entry.%' AND json_extract(details, '$.change') NOT IN (SELECT id FROM entry_changes)`,
];

/** What was acknowledged so far: changes of entries, and entry numbers of imports that were posted. */
type Acknowledged = { changes: number; imported: string[] };

const post = (path: string, body: object): Promise<Response | null> =>
  fetch(`${server.base}${path}`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }).catch(
    () => null,
  );
/** Null when the server went away while it answered. */
const jsonOf = async <Answer>(response: Response | null): Promise<Answer | null> =>
  response === null ? null : ((await response.json().catch(() => null)) as Answer | null);

/** Lines moved from one account to another and back, until the server is gone. */
async function reclassify(lines: readonly number[], isDown: () => boolean, acknowledged: Acknowledged): Promise<void> {
  for (let turn = 0; !isDown(); turn += 1) {
    const response = await post('/companies/1/reclassifications', {
      lines,
      account: turn % 2 === 0 ? '6410' : '6420',
      reason: `Turn ${turn}`,
    });
    if (response === null) return;
    expect(response.status).toBe(204);
    acknowledged.changes += 1;
  }
}

/** One entry corrected again and again, each time from the version there is. */
async function correct(entry: number, isDown: () => boolean, acknowledged: Acknowledged): Promise<void> {
  while (!isDown()) {
    const now = await jsonOf<EntryDto>(await fetch(`${server.base}/companies/1/entries/${entry}`).catch(() => null));
    if (now === null) return;
    const content = contentOf(now);
    const by = content.lines[0]!.memo.endsWith('!') ? -1 : 1;
    content.lines = content.lines.map((line, at) => ({
      ...line,
      amount: line.amount + by * (at === 0 ? 100 : at === content.lines.length - 1 ? -100 : 0),
      memo: at > 0 ? line.memo : by > 0 ? `${line.memo}!` : line.memo.slice(0, -1),
    }));
    const response = await post(`/companies/1/entries/${entry}/correction`, { version: now.version, content, reason: 'A digit' });
    if (response === null) return;
    expect(response.status).toBe(204);
    acknowledged.changes += 1;
  }
}

/** Small files checked and posted one after the other. */
async function importFiles(kill: number, isDown: () => boolean, acknowledged: Acknowledged): Promise<void> {
  for (let turn = 0; !isDown(); turn += 1) {
    const number = `KILL-${kill}-${turn}`;
    const form = new FormData();
    form.set('company', '1');
    form.set(
      'ledger',
      new Blob([`entry,date,account,amount,memo\n${number},2026-10-30,1010,5.00,\n${number},2026-10-30,4310,-5.00,\n`]),
      'ledger.csv',
    );
    let made = await jsonOf<ImportDto>(await fetch(`${server.base}/imports`, { method: 'POST', body: form }).catch(() => null));
    while (made?.state === 'checking') made = await jsonOf<ImportDto>(await fetch(`${server.base}/imports/${made.id}`).catch(() => null));
    if (made === null) return;
    const posted = await jsonOf<ImportDto>(await post(`/imports/${made.id}/post`, {}));
    if (posted === null) return;
    // another change meanwhile has it checked again, up to a few times; then it is left for the next
    if (posted.state === 'posted') acknowledged.imported.push(number);
  }
}

it(
  `holds after ${KILLS} kills at any moment while entries are corrected, reclassified and imported: every check, and all that was acknowledged`,
  async () => {
    cpSync(inject('demoFolder'), folder, { recursive: true });
    server = await startProcess(folder);
    const { lines } = await server.get<EntryListDto>('/companies/1/entries?accounts=6000-6999&limit=40&find=PU');
    const { lines: bills } = await server.get<EntryListDto>('/companies/1/entries?accounts=6140&to=2026-06&limit=1');
    const moved = lines.map(({ lineId }) => lineId);
    const acknowledged: Acknowledged = { changes: 0, imported: [] };
    for (let kill = 0; kill < KILLS; kill += 1) {
      let down = false;
      const isDown = () => down;
      const working = Promise.all([
        reclassify(moved, isDown, acknowledged),
        correct(bills[0]!.entryId, isDown, acknowledged),
        importFiles(kill, isDown, acknowledged),
      ]);
      // moments spread over a few changes, the same on every run
      await new Promise((resolve) => setTimeout(resolve, 100 + ((kill * 137) % 700)));
      down = true;
      expect(await server.stop('SIGKILL')).toEqual([null, 'SIGKILL']);
      await working;
      for (const sql of UNSOUND) expect([sql, await rowsOf(sql)]).toEqual([sql, []]);
      const [made] = await rowsOf<{ count: number }>('SELECT count(*) AS count FROM entry_changes');
      // what was written and not yet acknowledged may be there, at most one of each kind a kill
      expect(made!.count).toBeGreaterThanOrEqual(acknowledged.changes);
      expect(made!.count).toBeLessThanOrEqual(acknowledged.changes + 2);
      acknowledged.changes = made!.count;
      const imported = new Set(
        (await rowsOf<{ number: string }>(`SELECT number FROM entries WHERE number LIKE 'KILL-%'`)).map(({ number }) => number),
      );
      expect(acknowledged.imported.filter((number) => !imported.has(number))).toEqual([]);
      server = await startProcess(folder);
      expect((await server.get<AuditVerificationDto>('/audit/verification')).faults).toEqual([]);
      const { sides } = await server.get<ReportDto>('/companies/1/reports/trial-balance?range=FY2027');
      expect(sides!.debits).toBe(sides!.credits);
    }
    expect(acknowledged.changes).toBeGreaterThan(0);
  },
  60_000 + KILLS * 30_000,
);
