import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import { expect, it } from 'vitest';

import { recordAudit, verifyAudit } from './audit.ts';
import { openDatabase } from './database.ts';

it('events recorded before there was a chain are chained, and later ones follow them', async () => {
  const directory = mkdtempSync(join(tmpdir(), 'audit-migration-'));
  try {
    const before = await openDatabase(directory);
    await before.write(async (transaction) => {
      const statements = [
        'DROP TRIGGER audit_events_no_update',
        'DROP INDEX audit_events_by_company',
        'DROP TABLE audit_head',
        ...['reason', 'changes', 'previous_hash', 'hash'].map((name) => `ALTER TABLE audit_events DROP COLUMN ${name}`),
        `CREATE TRIGGER audit_events_no_update BEFORE UPDATE ON audit_events BEGIN SELECT RAISE(ABORT, 'audit events are only added'); END`,
        `INSERT INTO audit_events (company_id, at, actor, action, subject, details) VALUES (1, '2026-01-01', 'Dana', 'import.post', 'import 1', '{}'), (NULL, '2026-01-02', 'Dana', 'demo.remove', 'demo companies', '{}')`,
        `DELETE FROM SequelizeMeta WHERE name LIKE '0012%'`,
      ];
      for (const statement of statements) await before.run(statement, [], transaction);
    });
    await before.close();
    const after = await openDatabase(directory);
    expect(await verifyAudit(after)).toEqual({ events: 2, faults: [] });
    const actor = { name: 'Dana', now: () => new Date('2026-01-03T00:00:00Z') };
    await after.write((transaction) =>
      recordAudit(after, { companyId: 1, actor, action: 'logo.remove', subject: 'logo', details: {} }, transaction),
    );
    expect(await verifyAudit(after)).toEqual({ events: 3, faults: [] });
    await expect(after.write((transaction) => after.run('UPDATE audit_events SET actor = $1', ['x'], transaction))).rejects.toThrow();
    await after.close();
  } finally {
    rmSync(directory, { recursive: true, force: true });
  }
});
