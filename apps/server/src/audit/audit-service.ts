import type { AuditEventDto, AuditFilterDto, AuditQueryDto, AuditTrailDto, AuditVerificationDto } from '@wise-margin/contract';
import { shippedView } from '@wise-margin/core';
import { auditActionsOf, auditAreaOf, type AuditNames, auditWords } from '@wise-margin/presentation';

import type { BooksCache } from '../companies/index.ts';
import { type Actor, verifyAudit } from '../database/audit.ts';
import type { AuditChange } from '../database/audit-chain.ts';
import type { Database } from '../database/database.ts';
import { notFound } from '../http/problem.ts';

type Row = {
  readonly id: number;
  readonly at: string;
  readonly actor: string;
  readonly action: string;
  readonly subject: string;
  readonly details: string;
  readonly reason: string;
  readonly changes: string;
  readonly reviewed_at: string | null;
  readonly reviewed_by: string | null;
};
const EVENTS =
  'SELECT a.*, r.at AS reviewed_at, r.actor AS reviewed_by FROM audit_events a LEFT JOIN reviewed_events r ON r.event_id = a.id';

/** Every change of a company's ledger, budgets, views and settings, as it was recorded. */
export class AuditService {
  readonly #database: Database;
  readonly #booksCache: BooksCache;

  constructor(database: Database, booksCache: BooksCache) {
    this.#database = database;
    this.#booksCache = booksCache;
  }

  /** A page of the changes that match, the newest first. */
  async page(companyId: number, { before, limit, ...filter }: AuditQueryDto): Promise<AuditTrailDto> {
    await this.#booksCache.of(companyId);
    const { condition, bindings } = matching(companyId, filter);
    const [counted] = await this.#database.select<{ count: number; reviewed: number }>(
      `SELECT count(*) AS count, count(r.event_id) AS reviewed FROM audit_events a LEFT JOIN reviewed_events r ON r.event_id = a.id WHERE ${condition}`,
      bindings,
    );
    const found = await this.#database.select<Row>(`${EVENTS} WHERE ${condition} AND a.id < $6 ORDER BY a.id DESC LIMIT $7`, [
      ...bindings,
      before ?? Number.MAX_SAFE_INTEGER,
      limit + 1,
    ]);
    const rows = found.slice(0, limit);
    const names = await this.#names(companyId);
    return {
      events: rows.map((row) => eventOf(row, names)),
      count: counted!.count,
      reviewed: counted!.reviewed,
      next: found.length > limit ? rows.at(-1)!.id : null,
    };
  }

  /** All that match, oldest first, for a file. */
  async all(companyId: number, filter: AuditFilterDto): Promise<readonly AuditEventDto[]> {
    await this.#booksCache.of(companyId);
    const { condition, bindings } = matching(companyId, filter);
    const rows = await this.#database.select<Row>(`${EVENTS} WHERE ${condition} ORDER BY a.id`, bindings);
    const names = await this.#names(companyId);
    return rows.map((row) => eventOf(row, names));
  }

  /** Ticks a change off as reviewed, or takes the tick back. @throws ProblemError 404 for one of another company */
  async review(
    { company, event: id }: { readonly company: number; readonly event: number },
    reviewed: boolean,
    actor: Actor,
  ): Promise<void> {
    const [event] = await this.#database.select(`SELECT id FROM audit_events WHERE id = $1 AND (company_id = $2 OR ${OF_ALL})`, [
      id,
      company,
    ]);
    if (!event) throw notFound(`change ${id}`);
    await this.#database.write((transaction) =>
      reviewed
        ? this.#database.run(
            'INSERT INTO reviewed_events (event_id, at, actor) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING',
            [id, actor.now().toISOString(), actor.name],
            transaction,
          )
        : this.#database.run('DELETE FROM reviewed_events WHERE event_id = $1', [id], transaction),
    );
  }

  /** Whether every event on record, of all companies, still follows the one before it. */
  async verify(): Promise<AuditVerificationDto> {
    const { events, faults } = await verifyAudit(this.#database);
    return { events, faults: [...faults] };
  }

  async #names(companyId: number): Promise<AuditNames> {
    const select = async (sql: string) =>
      new Map((await this.#database.select<{ id: number; name: string }>(sql, [companyId])).map(({ id, name }) => [id, name]));
    const budgets = await select('SELECT id, name FROM budgets WHERE company_id = $1');
    const views = await select(
      // a company's own version has the key of the view for all companies
      'SELECT coalesce(version_of, id) AS id, name FROM views WHERE company_id = $1 OR company_id IS NULL ORDER BY company_id IS NOT NULL',
    );
    return {
      budget: (id) => budgets.get(id) ?? `Budget ${id}`,
      view: (key) => shippedView(key)?.name ?? views.get(Number(key.replace(/\D+/g, ''))) ?? key,
    };
  }
}

/** What is done for several companies is on every company's record. */
const OF_ALL = `(company_id IS NULL AND (action GLOB 'companyGroup.*' OR action GLOB 'exchangeRates.*' OR action GLOB 'companyRun.*'))`;

/** The condition of a query over `audit_events`, with its first five bindings. */
function matching(companyId: number, { from, to, area, find, reviewed }: AuditFilterDto) {
  const actions = area === undefined ? [] : auditActionsOf(area);
  return {
    condition: `(a.company_id = $1 OR ${OF_ALL}) AND a.at >= $2 AND a.at < $3 ${reviewed === undefined ? '' : `AND r.event_id IS ${reviewed === 'yes' ? 'NOT NULL' : 'NULL'}`}
      AND ($4 IS NULL OR EXISTS (SELECT 1 FROM json_each($4) WHERE action = value OR (value LIKE '%.' AND substr(action, 1, length(value)) = value)))
      AND ($5 IS NULL OR instr(lower(action || char(10) || subject || char(10) || details || char(10) || reason || char(10) || changes || char(10) || a.actor), lower($5)) > 0)`,
    bindings: [
      companyId,
      from ?? '',
      // the whole of the last day
      to === undefined ? '9999' : `${to}T24`,
      area === undefined ? null : JSON.stringify(actions),
      find === undefined || find === '' ? null : find,
    ],
  };
}

function eventOf(
  { id, at, actor, action, subject, details, reason, changes, reviewed_at, reviewed_by }: Row,
  names: AuditNames,
): AuditEventDto {
  const recorded = JSON.parse(details) as Record<string, unknown>;
  const text = (value: AuditChange['from']): string => (value === null ? '' : String(value));
  return {
    id,
    at,
    actor,
    area: auditAreaOf(action),
    words: auditWords({ action, subject, details: recorded }, names),
    changes: (JSON.parse(changes) as AuditChange[]).map(({ what, from, to }) => ({ what, from: text(from), to: text(to) })),
    reason,
    reviewed: reviewed_at === null ? null : { at: reviewed_at, actor: reviewed_by! },
    entryId: typeof recorded['entryId'] === 'number' ? recorded['entryId'] : null,
  };
}
