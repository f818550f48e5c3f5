import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import { expect, it } from 'vitest';

import { openDatabase } from './database.ts';

it('schedules of packs and views of companies are carried over from older data, and no number of a view is given twice', async () => {
  const directory = mkdtempSync(join(tmpdir(), 'for-all-companies-'));
  try {
    const before = await openDatabase(directory);
    await before.write(async (transaction) => {
      const run = (statement: string) => before.run(statement, [], transaction);
      await run(`INSERT INTO companies (name, currency, start_month, created_at) VALUES ('Old', 'USD', 1, '2026-01-01')`);
      // as the folder was before views could be for all companies
      for (const table of ['materiality_for_all', 'benchmarks_for_all', 'mail_files', 'views']) await run(`DROP TABLE ${table}`);
      await run(
        `CREATE TABLE views (
          id INTEGER PRIMARY KEY AUTOINCREMENT, company_id INTEGER NOT NULL REFERENCES companies(id), name TEXT NOT NULL, folder TEXT NOT NULL, note TEXT NOT NULL,
          line_set TEXT NOT NULL, column_set TEXT NOT NULL, shared INTEGER NOT NULL DEFAULT 0, owner TEXT NOT NULL, version INTEGER NOT NULL DEFAULT 1,
          saved_at TEXT NOT NULL, display TEXT NOT NULL DEFAULT '{}', choices TEXT NOT NULL DEFAULT '{}', UNIQUE (company_id, owner, name))`,
      );
      for (const name of ['Mine', 'Gone'])
        await run(
          `INSERT INTO views (company_id, name, folder, note, line_set, column_set, owner, version, saved_at, display)
           VALUES (1, '${name}', 'Board', 'Note', '{"lines":[]}', '{"blocks":[]}', 'Ann', 4, '2026-02-02', '{"unit":"thousands"}')`,
        );
      await run(`DELETE FROM views WHERE name = 'Gone'`);
      await run(
        `INSERT INTO schedules (company_id, content, handled_through) VALUES (1, '{"name":"Bank","pack":"lender-pack","of":"monthBefore"}', '2026-01-01')`,
      );
      await run(`DELETE FROM SequelizeMeta WHERE name LIKE '0027%' OR name LIKE '0028%' OR name LIKE '0029%'`);
    });
    await before.close();

    const after = await openDatabase(directory);
    expect(await after.select('SELECT id, company_id, name, folder, owner, version, display, version_of FROM views')).toEqual([
      { id: 1, company_id: 1, name: 'Mine', folder: 'Board', owner: 'Ann', version: 4, display: '{"unit":"thousands"}', version_of: null },
    ]);
    const [schedule] = await after.select<{ content: string }>('SELECT content FROM schedules');
    expect(JSON.parse(schedule!.content)).toEqual({ name: 'Bank', of: 'monthBefore', what: { kind: 'pack', pack: 'lender-pack' } });
    await after.write((transaction) =>
      after.run(
        `INSERT INTO views (name, folder, note, line_set, column_set, owner, saved_at) VALUES ('New', 'Board', '', '{}', '{}', 'Ann', '')`,
        [],
        transaction,
      ),
    );
    expect(await after.select(`SELECT id FROM views WHERE name = 'New'`)).toEqual([{ id: 3 }]);
    await after.close();
  } finally {
    rmSync(directory, { recursive: true, force: true });
  }
});
