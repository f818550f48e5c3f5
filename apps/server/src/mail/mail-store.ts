import { randomUUID } from 'node:crypto';

import type { MailMessageDto, MailState, PackFormat } from '@wise-margin/contract';

import { type Actor, recordAudit } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import { notFound, ProblemError } from '../http/problem.ts';

export type Attachment = { readonly slice: string; readonly format: PackFormat };
/** A file that is mailed and is none of an issue. */
export type MailFile = { readonly name: string; readonly type: string; readonly content: Buffer };
/** A message for one address. */
export type MailRow = {
  readonly id: number;
  readonly company_id: number;
  readonly key: string;
  readonly message_id: string;
  readonly recipient: string;
  readonly subject: string;
  readonly body: string;
  readonly at: string;
  readonly by: string;
  readonly state: MailState;
  readonly attempts: number;
  readonly next_at: string;
  readonly sent_at: string | null;
  readonly error: string;
  readonly issue_id: number | null;
};
type NewMail = {
  readonly companyId: number;
  readonly key: string;
  readonly recipients: readonly string[];
  readonly subject: string;
  readonly text: string;
  /** null for what is no issue */
  readonly issue: number | null;
  readonly attachments: readonly Attachment[];
  /** its own files, stored with the messages */
  readonly files: readonly MailFile[];
  readonly state: 'queued' | 'outbox';
};

/** Minutes until a message is tried again: a while at first, then longer and longer. After the last it has failed. */
export const RETRY_MINUTES: readonly number[] = [1, 5, 15, 60, 240, 720];

/** Messages and what became of them. A message belongs to one address and has its own number, the same at every try. */
export class MailStore {
  readonly #database: Database;

  constructor(database: Database) {
    this.#database = database;
  }

  /** Adds a message for each recipient; those that the same request added before are left as they are. */
  async add({ companyId, key, recipients, subject, text, issue, attachments, files, state }: NewMail, actor: Actor): Promise<void> {
    const at = actor.now().toISOString();
    await this.#database.write(async (transaction) => {
      let added = 0;
      for (const recipient of recipients) {
        const [known] = await this.#database.select<{ id: number }>(
          'SELECT id FROM mail_messages WHERE company_id = $1 AND key = $2 AND recipient = $3',
          [companyId, key, recipient],
          transaction,
        );
        if (known) continue;
        added += 1;
        await this.#database.run(
          `INSERT INTO mail_messages (company_id, key, message_id, recipient, subject, body, at, by, state, next_at, issue_id)
           VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $7, $10)`,
          [companyId, key, `<${randomUUID()}@wise-margin>`, recipient, subject, text, at, actor.name, state, issue],
          transaction,
        );
        const [made] = await this.#database.select<{ id: number }>('SELECT max(id) AS id FROM mail_messages', [], transaction);
        for (const { slice, format } of attachments)
          await this.#database.run(
            'INSERT INTO mail_attachments (message_id, slice, format) VALUES ($1, $2, $3)',
            [made!.id, slice, format],
            transaction,
          );
        await this.#database.run(
          'INSERT INTO mail_log (message_id, at, what) VALUES ($1, $2, $3)',
          [made!.id, at, state === 'outbox' ? 'Kept in the outbox: no mail server is set' : 'Queued'],
          transaction,
        );
      }
      if (added === 0) return;
      for (const [position, { name, type, content }] of files.entries())
        await this.#database.run(
          'INSERT INTO mail_files (company_id, key, position, name, type, content) VALUES ($1, $2, $3, $4, $5, $6) ON CONFLICT DO NOTHING',
          [companyId, key, position, name, type, content],
          transaction,
        );
      await recordAudit(
        this.#database,
        {
          ...{ companyId, actor, action: 'mail.send' },
          subject: issue === null ? subject : `issue ${issue}`,
          details: { subject, recipients },
        },
        transaction,
      );
    });
  }

  /**
   * Takes the next message that is due, so that nobody else takes it. What another server was sending when it stopped is
   * not taken: it may have been sent.
   */
  claim(now: Date): Promise<MailRow | null> {
    return this.#database.write(async (transaction) => {
      const [row] = await this.#database.select<MailRow>(
        `SELECT * FROM mail_messages WHERE state = 'queued' AND next_at <= $1 ORDER BY next_at, id LIMIT 1`,
        [now.toISOString()],
        transaction,
      );
      if (!row) return null;
      await this.#database.run(`UPDATE mail_messages SET state = 'sending', attempts = attempts + 1 WHERE id = $1`, [row.id], transaction);
      return { ...row, attempts: row.attempts + 1 };
    });
  }

  /** When the next queued message is due; null without one. */
  async nextDue(): Promise<Date | null> {
    const [row] = await this.#database.select<{ at: string | null }>(`SELECT min(next_at) AS at FROM mail_messages WHERE state = 'queued'`);
    return row?.at ? new Date(row.at) : null;
  }

  async sent({ id }: Pick<MailRow, 'id'>, now: Date): Promise<void> {
    await this.#change(id, { state: 'sent', sentAt: now.toISOString(), error: '', nextAt: now.toISOString(), what: 'Sent', now });
  }

  /** Notes a failed try: it is tried again later, unless it was refused for good or tried too often. */
  async failed(
    { id, attempts }: Pick<MailRow, 'id' | 'attempts'>,
    { error, isPermanent, now }: { readonly error: string; readonly isPermanent: boolean; readonly now: Date },
  ): Promise<void> {
    const minutes = isPermanent ? undefined : RETRY_MINUTES[attempts - 1];
    const nextAt = new Date(now.getTime() + (minutes ?? 0) * 60_000).toISOString();
    const state = minutes === undefined ? 'failed' : 'queued';
    await this.#change(id, {
      state,
      sentAt: null,
      error,
      nextAt,
      what: `${error} ${state === 'failed' ? 'Not tried again.' : `Tried again in ${minutes} min.`}`,
      now,
    });
  }

  /** Messages that were being sent when the server stopped may have arrived: a person decides whether they go again. */
  async recover(now: Date): Promise<void> {
    const rows = await this.#database.select<{ id: number }>(`SELECT id FROM mail_messages WHERE state = 'sending'`);
    const error = 'The server stopped while this message was being sent. It may have arrived; send it again if it did not.';
    for (const { id } of rows)
      await this.#change(id, { state: 'failed', sentAt: null, error, nextAt: now.toISOString(), what: error, now });
  }

  /** Queues a failed message again, under its own number. @throws ProblemError 409 for one that did not fail */
  async again(companyId: number, id: number, actor: Actor): Promise<void> {
    const row = await this.of(companyId, id);
    if (row.state !== 'failed') throw new ProblemError(409, 'Not failed', 'Only a message that failed can be sent again.');
    const now = actor.now();
    await this.#database.write(async (transaction) => {
      await this.#database.run(
        `UPDATE mail_messages SET state = 'queued', attempts = 0, next_at = $2, error = '' WHERE id = $1`,
        [id, now.toISOString()],
        transaction,
      );
      await this.#database.run(
        'INSERT INTO mail_log (message_id, at, what) VALUES ($1, $2, $3)',
        [id, now.toISOString(), `Queued again by ${actor.name}`],
        transaction,
      );
    });
  }

  /** Whether the same request for the same issue is there already with other words, recipients or attachments. */
  async hasOther({ companyId, key, issue, recipients, subject, text, attachments }: Omit<NewMail, 'files' | 'state'>): Promise<boolean> {
    const rows = await this.#database.select<MailRow>(
      'SELECT * FROM mail_messages WHERE company_id = $1 AND key = $2 AND issue_id = $3 ORDER BY recipient',
      [companyId, key, issue],
    );
    if (rows.length === 0) return false;
    const inOrder = (texts: readonly string[]): string => [...texts].sort().join('\n');
    const named = (files: readonly Attachment[]): string => inOrder(files.map(({ slice, format }) => `${slice} ${format}`));
    return (
      rows.some((row) => row.subject !== subject || row.body !== text) ||
      inOrder(rows.map(({ recipient }) => recipient)) !== inOrder(recipients) ||
      named(await this.attachments(rows[0]!.id)) !== named(attachments)
    );
  }

  /** Whether messages of a request are there. */
  async has(companyId: number, key: string): Promise<boolean> {
    const rows = await this.#database.select<{ id: number }>('SELECT id FROM mail_messages WHERE company_id = $1 AND key = $2 LIMIT 1', [
      companyId,
      key,
    ]);
    return rows.length > 0;
  }

  /** @throws ProblemError 404 */
  async of(companyId: number, id: number): Promise<MailRow> {
    const [row] = await this.#database.select<MailRow>('SELECT * FROM mail_messages WHERE company_id = $1 AND id = $2', [companyId, id]);
    if (!row) throw notFound('message with this number');
    return row;
  }

  /** The latest first. */
  async list(
    companyId: number,
    { issue, limit }: { readonly issue?: number | undefined; readonly limit: number },
  ): Promise<{ readonly messages: MailMessageDto[]; readonly count: number }> {
    const where = 'company_id = $1 AND ($2 IS NULL OR issue_id = $2)';
    const rows = await this.#database.select<MailRow>(`SELECT * FROM mail_messages WHERE ${where} ORDER BY id DESC LIMIT $3`, [
      companyId,
      issue ?? null,
      limit,
    ]);
    const [count] = await this.#database.select<{ count: number }>(`SELECT count(*) AS count FROM mail_messages WHERE ${where}`, [
      companyId,
      issue ?? null,
    ]);
    return { messages: rows.map(messageDto), count: count!.count };
  }

  attachments(id: number): Promise<Attachment[]> {
    return this.#database.select<Attachment>('SELECT slice, format FROM mail_attachments WHERE message_id = $1 ORDER BY slice, format', [
      id,
    ]);
  }

  /** Files of messages that are of no issue. */
  files({ company_id: company, key }: Pick<MailRow, 'company_id' | 'key'>): Promise<MailFile[]> {
    return this.#database.select<MailFile>(
      'SELECT name, type, content FROM mail_files WHERE company_id = $1 AND key = $2 ORDER BY position',
      [company, key],
    );
  }

  log(id: number): Promise<{ at: string; what: string }[]> {
    return this.#database.select<{ at: string; what: string }>('SELECT at, what FROM mail_log WHERE message_id = $1 ORDER BY id', [id]);
  }

  #change(
    id: number,
    {
      state,
      sentAt,
      error,
      nextAt,
      what,
      now,
    }: {
      readonly state: MailState;
      readonly sentAt: string | null;
      readonly error: string;
      readonly nextAt: string;
      readonly what: string;
      readonly now: Date;
    },
  ): Promise<void> {
    return this.#database.write(async (transaction) => {
      await this.#database.run(
        'UPDATE mail_messages SET state = $2, sent_at = $3, error = $4, next_at = $5 WHERE id = $1',
        [id, state, sentAt, error, nextAt],
        transaction,
      );
      await this.#database.run(
        'INSERT INTO mail_log (message_id, at, what) VALUES ($1, $2, $3)',
        [id, now.toISOString(), what],
        transaction,
      );
    });
  }
}

export const messageDto = (row: MailRow): MailMessageDto => ({
  id: row.id,
  recipient: row.recipient,
  subject: row.subject,
  at: row.at,
  by: row.by,
  state: row.state,
  attempts: row.attempts,
  nextAt: row.state === 'queued' ? row.next_at : null,
  sentAt: row.sent_at,
  error: row.error,
  issue: row.issue_id,
});
