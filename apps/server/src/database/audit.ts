import type { Transaction } from 'sequelize';

import type { Database } from './database.ts';

/** Who acts, and when: handed in, so that nothing below reads a clock. */
export type Actor = { readonly name: string; readonly now: () => Date };

/** Adds a record of a change, inside the transaction that makes it. */
export async function recordAudit(
  database: Database,
  event: {
    readonly companyId: number | null;
    readonly actor: Actor;
    readonly action: string;
    readonly subject: string;
    readonly details: object;
  },
  transaction: Transaction,
): Promise<void> {
  const { companyId, actor, action, subject, details } = event;
  await database.models.auditEvents.create(
    { companyId, at: actor.now().toISOString(), actor: actor.name, action, subject, details: JSON.stringify(details) },
    { transaction },
  );
}
