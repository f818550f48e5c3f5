import type { Transaction } from 'sequelize';

import {
  AuditChainReader,
  type AuditChange,
  type AuditFault,
  auditHash,
  type AuditHead,
  type AuditRow,
  FIRST_HASH,
} from './audit-chain.ts';
import type { Database } from './database.ts';

/** Who acts, and when: handed in, so that nothing below reads a clock. */
export type Actor = { readonly name: string; readonly now: () => Date };

const EVENTS_AT_ONCE = 2000;

/** Adds a record of a change, inside the transaction that makes it, and chains it to the one before. */
export async function recordAudit(
  database: Database,
  event: {
    readonly companyId: number | null;
    readonly actor: Actor;
    readonly action: string;
    readonly subject: string;
    readonly details: object;
    /** field by field, where the change has fields */
    readonly changes?: readonly AuditChange[];
    /** as the person gave it */
    readonly reason?: string;
  },
  transaction: Transaction,
): Promise<void> {
  const { companyId, actor, action, subject, details, changes = [], reason = '' } = event;
  const [head] = await database.select<AuditHead>('SELECT id, hash FROM audit_head', [], transaction);
  const row = {
    id: (head?.id ?? 0) + 1,
    company_id: companyId,
    at: actor.now().toISOString(),
    actor: actor.name,
    action,
    subject,
    details: JSON.stringify(details),
    reason,
    changes: JSON.stringify(changes),
    previous_hash: head?.hash ?? FIRST_HASH,
  };
  const hash = auditHash(row);
  await database.run(
    `INSERT INTO audit_events (id, company_id, at, actor, action, subject, details, reason, changes, previous_hash, hash)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11)`,
    [...Object.values(row), hash],
    transaction,
  );
  await database.run('UPDATE audit_head SET id = $1, hash = $2', [row.id, hash], transaction);
}

/** Reads every audit event of every company, a part at a time, and finds those that were changed, removed or inserted. */
export async function verifyAudit(database: Database): Promise<{ readonly events: number; readonly faults: readonly AuditFault[] }> {
  const reader = new AuditChainReader();
  let after = 0;
  for (;;) {
    const rows = await database.select<AuditRow>('SELECT * FROM audit_events WHERE id > $1 ORDER BY id LIMIT $2', [after, EVENTS_AT_ONCE]);
    for (const row of rows) reader.read(row);
    after = rows.at(-1)?.id ?? after;
    if (rows.length === EVENTS_AT_ONCE) continue;
    // in one statement, so that an event recorded meanwhile is read too and not taken for an insertion
    const [now] = await database.select<AuditHead & { readonly last: number | null }>(
      'SELECT (SELECT id FROM audit_head) AS id, (SELECT hash FROM audit_head) AS hash, (SELECT max(id) FROM audit_events) AS last',
    );
    if ((now!.last ?? 0) <= after) return reader.finish({ id: now!.id ?? 0, hash: now!.hash ?? FIRST_HASH });
  }
}
