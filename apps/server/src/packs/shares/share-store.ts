import { createHash, randomBytes } from 'node:crypto';

import type { CreatedPackShare, NewPackShare, PackShareDto } from '@wise-margin/contract';

import { type Actor, recordAudit } from '../../database/audit.ts';
import type { Database } from '../../database/database.ts';
import { notFound } from '../../http/problem.ts';

type Row = {
  readonly id: number;
  readonly company_id: number;
  readonly issue_id: number;
  readonly expires: string;
  readonly drill_down: number;
  readonly created_at: string;
  readonly created_by: string;
  readonly revoked_at: string | null;
  readonly opens: number;
  readonly last_opened_at: string | null;
};
/** An issue that a link leads to. */
export type IssueAt = { readonly company: number; readonly packIssue: number };
/** A link as it is stored. */
export type StoredShare = IssueAt & PackShareDto;
const TOKEN_BYTES = 24;
const digestOf = (token: string): string => createHash('sha256').update(token).digest('hex');

/** Links to issued packs. */
export class ShareStore {
  readonly #database: Database;

  constructor(database: Database) {
    this.#database = database;
  }

  /** @param link makes the address of a token */
  async create(
    { company, packIssue }: IssueAt,
    { expires, drillDown }: NewPackShare,
    { actor, link }: { readonly actor: Actor; readonly link: (token: string) => string },
  ): Promise<CreatedPackShare> {
    const token = randomBytes(TOKEN_BYTES).toString('base64url');
    const at = actor.now().toISOString();
    const id = await this.#database.write(async (transaction) => {
      await this.#database.run(
        'INSERT INTO pack_shares (company_id, issue_id, digest, expires, drill_down, created_at, created_by) VALUES ($1, $2, $3, $4, $5, $6, $7)',
        [company, packIssue, digestOf(token), expires, drillDown ? 1 : 0, at, actor.name],
        transaction,
      );
      const [made] = await this.#database.select<{ id: number }>('SELECT max(id) AS id FROM pack_shares', [], transaction);
      await recordAudit(
        this.#database,
        { companyId: company, actor, action: 'packShare.create', subject: `issue ${packIssue}`, details: { expires, drillDown } },
        transaction,
      );
      return made!.id;
    });
    const created = (await this.list({ company, packIssue })).find((share) => share.id === id)!;
    return { ...created, link: link(token) };
  }

  /** The latest first. */
  async list({ company, packIssue }: IssueAt): Promise<PackShareDto[]> {
    const rows = await this.#database.select<Row>('SELECT * FROM pack_shares WHERE company_id = $1 AND issue_id = $2 ORDER BY id DESC', [
      company,
      packIssue,
    ]);
    return rows.map(shareDto);
  }

  /** Ends a link at once. @throws ProblemError 404 */
  async revoke({ company, packIssue }: IssueAt, id: number, actor: Actor): Promise<void> {
    const found = (await this.list({ company, packIssue })).find((share) => share.id === id);
    if (!found) throw notFound('link with this number');
    await this.#database.write(async (transaction) => {
      await this.#database.run(
        'UPDATE pack_shares SET revoked_at = coalesce(revoked_at, $2) WHERE id = $1',
        [id, actor.now().toISOString()],
        transaction,
      );
      await recordAudit(
        this.#database,
        { companyId: company, actor, action: 'packShare.revoke', subject: `issue ${packIssue}`, details: {} },
        transaction,
      );
    });
  }

  /** The link of a token; null for none. */
  async ofToken(token: string): Promise<StoredShare | null> {
    const [row] = await this.#database.select<Row>('SELECT * FROM pack_shares WHERE digest = $1', [digestOf(token)]);
    return row ? { company: row.company_id, packIssue: row.issue_id, ...shareDto(row) } : null;
  }

  async opened({ id }: Pick<StoredShare, 'id'>, at: Date): Promise<void> {
    await this.#database.write((transaction) =>
      this.#database.run(
        'UPDATE pack_shares SET opens = opens + 1, last_opened_at = $2 WHERE id = $1',
        [id, at.toISOString()],
        transaction,
      ),
    );
  }
}

const shareDto = (row: Row): PackShareDto => ({
  id: row.id,
  expires: row.expires,
  drillDown: row.drill_down === 1,
  createdAt: row.created_at,
  createdBy: row.created_by,
  revokedAt: row.revoked_at,
  opens: row.opens,
  lastOpenedAt: row.last_opened_at,
});
