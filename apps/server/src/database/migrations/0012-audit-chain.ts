import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';

import { auditHash, type AuditRow, FIRST_HASH } from '../audit-chain.ts';
import type { Migration } from './migration.ts';

/** Audit events hold the reason, the fields that changed, and the hash of the event before them; the last hash stands apart. */
export const auditChain: Migration = {
  name: '0012-audit-chain',
  statements: [
    `DROP TRIGGER audit_events_no_update`,
    `ALTER TABLE audit_events ADD COLUMN reason TEXT NOT NULL DEFAULT ''`,
    `ALTER TABLE audit_events ADD COLUMN changes TEXT NOT NULL DEFAULT '[]'`,
    `ALTER TABLE audit_events ADD COLUMN previous_hash TEXT NOT NULL DEFAULT ''`,
    `ALTER TABLE audit_events ADD COLUMN hash TEXT NOT NULL DEFAULT ''`,
    `CREATE TABLE audit_head (id INTEGER NOT NULL, hash TEXT NOT NULL)`,
  ],
  fill: async (sequelize, transaction) => {
    const [rows, head] = await chained(sequelize, transaction);
    for (const { id, previous_hash, hash } of rows)
      await sequelize.query('UPDATE audit_events SET previous_hash = $1, hash = $2 WHERE id = $3', {
        bind: [previous_hash, hash, id],
        transaction,
      });
    await sequelize.query('INSERT INTO audit_head (id, hash) VALUES ($1, $2)', { bind: [head.id, head.hash], transaction });
  },
  finally: [
    `CREATE TRIGGER audit_events_no_update BEFORE UPDATE ON audit_events BEGIN SELECT RAISE(ABORT, 'audit events are only added'); END`,
    `CREATE INDEX audit_events_by_company ON audit_events (company_id, id)`,
  ],
};

/** The events there are already, each with its hash and that of the event before it. */
async function chained(
  sequelize: Sequelize,
  transaction: Transaction,
): Promise<[readonly AuditRow[], { readonly id: number; readonly hash: string }]> {
  const stored = await sequelize.query<AuditRow>('SELECT * FROM audit_events ORDER BY id', { type: QueryTypes.SELECT, transaction });
  let head = { id: 0, hash: FIRST_HASH };
  const rows = stored.map((each) => {
    const row = { ...each, previous_hash: head.hash };
    head = { id: row.id, hash: auditHash(row) };
    return { ...row, hash: head.hash };
  });
  return [rows, head];
}
