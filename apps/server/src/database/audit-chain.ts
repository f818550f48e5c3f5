import { createHash } from 'node:crypto';

/** One field of a change: what it was and what it became; null where there was or is none. */
export type AuditChange = { readonly what: string; readonly from: string | number | null; readonly to: string | number | null };

/** An audit event as it is stored. Each holds the hash of the event before it, so that no row can change unseen. */
export type AuditRow = {
  readonly id: number;
  readonly company_id: number | null;
  readonly at: string;
  readonly actor: string;
  readonly action: string;
  readonly subject: string;
  readonly details: string;
  readonly reason: string;
  /** `AuditChange[]` as JSON */
  readonly changes: string;
  readonly previous_hash: string;
  readonly hash: string;
};

/** The hash before the first event. */
export const FIRST_HASH = '0'.repeat(64);

/** SHA-256 over every field of an event and the hash of the event before it, as 64 hexadecimal digits. */
export function auditHash(row: Omit<AuditRow, 'hash'>): string {
  const { id, company_id, at, actor, action, subject, details, reason, changes, previous_hash } = row;
  return createHash('sha256')
    .update(JSON.stringify([id, company_id, at, actor, action, subject, details, reason, changes, previous_hash]))
    .digest('hex');
}

/** Where the events stop following one another. `id` is of the event at fault, or of the first one missing. */
export type AuditFault = { readonly id: number; readonly kind: 'changed' | 'removed' | 'inserted'; readonly words: string };

/** How many events there are and the hash of the last one, kept apart from them. */
export type AuditHead = { readonly id: number; readonly hash: string };

/** Reads events in order and finds every one that was changed, removed or inserted since it was written. */
export class AuditChainReader {
  readonly #faults: AuditFault[] = [];
  #last: AuditHead = { id: 0, hash: FIRST_HASH };
  #read = 0;

  /** @param row the event after those read so far, in order of id */
  read(row: AuditRow): void {
    const last = this.#last;
    this.#read += 1;
    const expected = last.id + 1;
    const isWhole = auditHash(row) === row.hash;
    if (row.id > expected) this.#fault('removed', expected, removedWords(expected, row.id - 1));
    if (!isWhole)
      this.#fault('changed', row.id, `Event ${row.id} was changed: ${row.action} of ${row.subject} by ${row.actor}, ${row.at}.`);
    else if (row.id === expected && row.previous_hash !== last.hash)
      this.#fault('inserted', row.id, `Event ${row.id} does not follow event ${last.id}: one of them was changed or inserted.`);
    this.#last = { id: row.id, hash: row.hash };
  }

  /**
   * Every fault found, in order of the events.
   * @param head what was kept of the last event when it was written
   */
  finish(head: AuditHead): { readonly events: number; readonly faults: readonly AuditFault[] } {
    const last = this.#last;
    if (last.id < head.id) this.#fault('removed', last.id + 1, removedWords(last.id + 1, head.id));
    else if (last.id > head.id)
      this.#fault('inserted', head.id + 1, `Events after ${head.id} were inserted, ${head.id + 1} to ${last.id}.`);
    else if (last.hash !== head.hash) this.#fault('changed', last.id, `Event ${last.id}, the last one, was changed or replaced.`);
    return { events: this.#read, faults: this.#faults };
  }

  #fault(kind: AuditFault['kind'], id: number, words: string): void {
    // a changed last event is named once
    if (!this.#faults.some((fault) => fault.id === id)) this.#faults.push({ id, kind, words });
  }
}

const removedWords = (from: number, to: number): string =>
  from === to ? `Event ${from} was removed.` : `Events ${from} to ${to} were removed.`;
