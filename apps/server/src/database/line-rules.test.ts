import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import { lineSetSchema } from '@wise-margin/contract';
import { expect, it } from 'vitest';

import { openDatabase } from './database.ts';

it('views saved with one word for both rules keep them, and their names', async () => {
  const directory = mkdtempSync(join(tmpdir(), 'line-rules-'));
  try {
    const before = await openDatabase(directory);
    const spacer = (key: string, more: object) => ({ kind: 'spacer', key, name: '', ...more });
    const name = 'Named "rule":"single" by hand';
    const lines = [spacer('a', { rule: 'single' }), spacer('b', { rule: 'double' }), spacer('c', { name })];
    await before.write(async (transaction) => {
      const [columns] = await before.select<{ names: string }>(
        `SELECT group_concat(name) AS names FROM pragma_table_info('companies') WHERE "notnull" = 1 AND pk = 0 AND dflt_value IS NULL`,
        [],
        transaction,
      );
      const names = columns!.names.split(',');
      await before.run(`INSERT INTO companies (${names.join(', ')}) VALUES (${names.map(() => '1').join(', ')})`, [], transaction);
      await before.run(
        `INSERT INTO views (company_id, name, folder, note, line_set, column_set, owner, saved_at)
         SELECT id, 'Old', 'My views', '', $1, '{}', 'owner', '' FROM companies`,
        [JSON.stringify({ key: 'old', name: 'Old', lines })],
        transaction,
      );
      // as the folder was before rules above and below were apart
      await before.run(`DELETE FROM SequelizeMeta WHERE name LIKE '0008%'`, [], transaction);
    });
    await before.close();
    const after = await openDatabase(directory);
    const [row] = await after.select<{ lines: string }>('SELECT line_set AS lines FROM views');
    await after.close();
    expect(lineSetSchema.parse(JSON.parse(row!.lines)).lines).toEqual([
      spacer('a', { rule: { above: 'single' } }),
      spacer('b', { rule: { above: 'single', below: 'double' } }),
      spacer('c', { name }),
    ]);
  } finally {
    rmSync(directory, { recursive: true, force: true });
  }
});
