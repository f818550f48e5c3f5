import {
  columnSetSchema,
  displayChoicesSchema,
  lineSetSchema,
  type newViewSchema,
  runChoicesSchema,
  type Scope,
  type viewChangeSchema,
  type ViewDto,
  type ViewListDto,
} from '@wise-margin/contract';
import { SHIPPED_VIEWS, shippedView } from '@wise-margin/core';
import type { Transaction } from 'sequelize';
import type { z } from 'zod';

import { type Actor, recordAudit } from '../../database/audit.ts';
import type { AuditChange } from '../../database/audit-chain.ts';
import type { Database } from '../../database/database.ts';
import { notFound, ProblemError, refused } from '../../http/problem.ts';

type Row = {
  id: number;
  /** null for all companies */
  company_id: number | null;
  /** the view for all companies that it is a company's version of */
  version_of: number | null;
  name: string;
  folder: string;
  note: string;
  line_set: string;
  column_set: string;
  display: string;
  choices: string;
  shared: number;
  owner: string;
  version: number;
  saved_at: string;
};
/** A company's version of a view has the key of the view, so that whatever names it finds either. */
const keyOf = ({ id, version_of: of }: Pick<Row, 'id' | 'version_of'>): string => `view-${of ?? id}`;
const idOf = (key: string): number | null => (/^view-\d{1,12}$/.test(key) ? Number(key.slice('view-'.length)) : null);

/** A view of a company: its key. */
type ViewPlace = { readonly company: number; readonly view: string };

/**
 * The library: the shipped views, and those people saved, for one company or for all. A company sees its own version of a
 * view, else the one for all companies: a change for all reaches every company that has not changed its own. A private view
 * is there for its owner only.
 */
export class ViewStore {
  readonly #database: Database;

  constructor(database: Database) {
    this.#database = database;
  }

  async list(companyId: number, actor: Actor): Promise<ViewListDto> {
    const starred = await this.#stars(companyId, actor);
    const chosen = await this.#choices(companyId, actor);
    const saved = await this.#database.select<Row>(
      `SELECT * FROM views WHERE (company_id = $1 OR (company_id IS NULL AND id NOT IN
         (SELECT version_of FROM views WHERE company_id = $1 AND version_of IS NOT NULL AND (shared = 1 OR owner = $2))))
       AND (shared = 1 OR owner = $2) ORDER BY folder COLLATE NOCASE, name COLLATE NOCASE`,
      [companyId, actor.name],
    );
    return [
      ...SHIPPED_VIEWS.map(({ key, name, folder, note }) => ({
        key,
        name,
        folder,
        note,
        isShipped: true,
        scope: 'all' as const,
        shared: true,
        owner: '',
        starred: starred.has(key),
        choices: chosen.get(key) ?? {},
      })),
      ...saved.map((row) => ({
        key: keyOf(row),
        name: row.name,
        folder: row.folder,
        note: row.note,
        isShipped: false,
        scope: scopeOf(row),
        shared: row.shared === 1,
        owner: row.owner,
        starred: starred.has(keyOf(row)),
        choices: chosen.get(keyOf(row)) ?? {},
      })),
    ];
  }

  /** @throws ProblemError 404 when there is none, or it is another person's private one */
  async of(companyId: number, key: string, actor: Actor): Promise<ViewDto> {
    const starred = (await this.#stars(companyId, actor)).has(key);
    const shipped = shippedView(key);
    if (shipped) {
      const { name, folder, note, lineSet, columnSet } = shipped;
      const own = { isShipped: true, starred, shared: true, owner: '', version: 0, savedAt: null };
      const scope = { scope: 'all' as const, isOwnVersion: false, changedBy: [] };
      return { key, name, folder, note, lineSet, columnSet, display: {}, choices: {}, ...own, ...scope };
    }
    const row = await this.#row({ company: companyId, view: key }, actor);
    return {
      key,
      name: row.name,
      folder: row.folder,
      note: row.note,
      lineSet: lineSetSchema.parse(JSON.parse(row.line_set)),
      columnSet: columnSetSchema.parse(JSON.parse(row.column_set)),
      display: displayChoicesSchema.parse(JSON.parse(row.display)),
      choices: runChoicesSchema.parse(JSON.parse(row.choices)),
      isShipped: false,
      scope: scopeOf(row),
      isOwnVersion: row.version_of !== null && (await this.#isThere(row.version_of)),
      changedBy: await this.#changedBy(row.version_of ?? row.id),
      starred,
      shared: row.shared === 1,
      owner: row.owner,
      version: row.version,
      savedAt: row.saved_at,
    };
  }

  /** @throws ProblemError 422 for a name the person uses already */
  async create(companyId: number, view: z.infer<typeof newViewSchema>, actor: Actor): Promise<ViewDto> {
    const id = await this.#database.write(async (transaction) => {
      await this.#refuseKnownName({ companyId, name: view.name, besides: null }, actor, transaction);
      await this.#database.run(
        'INSERT INTO views (company_id, name, folder, note, line_set, column_set, display, choices, shared, owner, saved_at) VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11)',
        [
          view.scope === 'all' ? null : companyId,
          view.name,
          view.folder,
          view.note,
          JSON.stringify(view.lineSet),
          JSON.stringify(view.columnSet),
          JSON.stringify(view.display),
          JSON.stringify(view.choices),
          view.shared ? 1 : 0,
          actor.name,
          actor.now().toISOString(),
        ],
        transaction,
      );
      const [made] = await this.#database.select<{ id: number }>('SELECT max(id) AS id FROM views', [], transaction);
      await recordAudit(
        this.#database,
        { companyId, actor, action: 'view.create', subject: `view-${made!.id}`, details: { name: view.name, scope: view.scope } },
        transaction,
      );
      return made!.id;
    });
    return this.of(companyId, `view-${id}`, actor);
  }

  /**
   * Changes a saved view, or stars any. A change for one company of a view for all makes the company's own version; a change
   * of that version for all is the view for all from then on.
   * @throws ProblemError 409 when another version was saved since it was opened; nothing is changed then
   */
  async change({ company: companyId, view: key }: ViewPlace, change: z.infer<typeof viewChangeSchema>, actor: Actor): Promise<ViewDto> {
    const { starred, version, scope, ...parts } = change;
    const changed = Object.fromEntries(Object.entries(parts).filter(([, value]) => value !== undefined));
    if (starred !== undefined) await this.#star({ company: companyId, view: key }, starred, actor);
    if (Object.keys(changed).length > 0 || scope !== undefined) await this.#save({ companyId, key, version, scope }, changed, actor);
    return this.of(companyId, key, actor);
  }

  /** Deletes a view; a company's own version goes back to the view for all companies. */
  async remove(companyId: number, key: string, actor: Actor): Promise<void> {
    const row = await this.#own(companyId, key, actor);
    await this.#database.write(async (transaction) => {
      // of a company's version the view for all stays, with its stars; of a view for all, those of every company go
      const company = row.company_id;
      if (row.version_of === null)
        for (const table of ['view_stars', 'view_choices'])
          await this.#database.run(
            `DELETE FROM ${table} WHERE ($1 IS NULL OR company_id = $1) AND view_key = $2`,
            [company, key],
            transaction,
          );
      await this.#database.run('DELETE FROM views WHERE id = $1', [row.id], transaction);
      await recordAudit(
        this.#database,
        { companyId, actor, action: 'view.remove', subject: key, details: { name: row.name } },
        transaction,
      );
    });
  }

  async #save(
    {
      companyId,
      key,
      version,
      scope,
    }: { readonly companyId: number; readonly key: string; readonly version: number; readonly scope: Scope | undefined },
    parts: Partial<z.infer<typeof newViewSchema>>,
    actor: Actor,
  ): Promise<void> {
    if (shippedView(key)) throw new ProblemError(409, 'Built-in view', 'This is a built-in view. Save a copy to change it.');
    await this.#database.write(async (transaction) => {
      const row = await this.#row({ company: companyId, view: key }, actor, transaction);
      if (row.version !== version)
        throw new ProblemError(
          409,
          'Changed by someone else',
          `${row.name} was saved at ${row.saved_at.slice(0, 16).replace('T', ' ')} after you opened it. Save your changes under another name, or open the view again.`,
        );
      // for whom it is kept can change: its name has to be free there, too
      const isElsewhere = scope !== undefined && scope !== scopeOf(row);
      const besides = [row.id, row.version_of ?? row.id];
      if (parts.name !== undefined || isElsewhere)
        await this.#refuseKnownName({ companyId, name: parts.name ?? row.name, besides }, actor, transaction);
      const target = await this.#target({ row, companyId, scope }, transaction);
      const next = await this.#nextVersion(row, transaction);
      await this.#database.run(
        'UPDATE views SET name = $1, folder = $2, note = $3, line_set = $4, column_set = $5, shared = $6, display = $7, choices = $8, version = $9, saved_at = $10, company_id = $11, version_of = $12 WHERE id = $13',
        [
          parts.name ?? row.name,
          parts.folder ?? row.folder,
          parts.note ?? row.note,
          parts.lineSet ? JSON.stringify(parts.lineSet) : row.line_set,
          parts.columnSet ? JSON.stringify(parts.columnSet) : row.column_set,
          (parts.shared ?? row.shared === 1) ? 1 : 0,
          parts.display ? JSON.stringify(parts.display) : row.display,
          parts.choices ? JSON.stringify(parts.choices) : row.choices,
          next,
          actor.now().toISOString(),
          target.company_id,
          target.version_of,
          target.id,
        ],
        transaction,
      );
      // what is saved for all is no longer a version of the company's own
      if (row.version_of !== null && target.id !== row.id)
        await this.#database.run('DELETE FROM views WHERE id = $1', [row.id], transaction);
      await recordAudit(
        this.#database,
        {
          companyId,
          actor,
          action: 'view.change',
          subject: key,
          details: { changed: Object.keys(parts), scope: target.company_id === null ? 'all' : 'company' },
          changes: viewChanges(row, parts, next),
        },
        transaction,
      );
    });
  }

  /** The row a save goes to: the one that was opened, the company's own version of it, or the view for all companies. */
  async #target(
    { row, companyId, scope = scopeOf(row) }: { readonly row: Row; readonly companyId: number; readonly scope: Scope | undefined },
    transaction: Transaction,
  ): Promise<Pick<Row, 'id' | 'company_id' | 'version_of'>> {
    if (scope === 'company' && row.company_id === null) {
      await this.#database.run(
        `INSERT INTO views (company_id, name, folder, note, line_set, column_set, display, choices, shared, owner, version, saved_at, version_of)
         SELECT $2, name, folder, note, line_set, column_set, display, choices, shared, owner, version, saved_at, id FROM views WHERE id = $1`,
        [row.id, companyId],
        transaction,
      );
      const [made] = await this.#database.select<{ id: number }>('SELECT max(id) AS id FROM views', [], transaction);
      return { id: made!.id, company_id: companyId, version_of: row.id };
    }
    if (scope === 'all' && row.version_of !== null) {
      const [template] = await this.#database.select<{ id: number }>('SELECT id FROM views WHERE id = $1', [row.version_of], transaction);
      if (template) return { id: template.id, company_id: null, version_of: null };
      // the view for all was deleted: this one takes its place, under its own number
      return { id: row.id, company_id: null, version_of: null };
    }
    return scope === 'all' ? { id: row.id, company_id: null, version_of: null } : row;
  }

  /** Versions of a view and of every company's own count on together, so that no two saves have one. */
  async #nextVersion({ id, version_of: of }: Row, transaction: Transaction): Promise<number> {
    const [latest] = await this.#database.select<{ version: number }>(
      'SELECT max(version) AS version FROM views WHERE id = $1 OR version_of = $1',
      [of ?? id],
      transaction,
    );
    return latest!.version + 1;
  }

  async #isThere(id: number): Promise<boolean> {
    return (await this.#database.select<{ id: number }>('SELECT id FROM views WHERE id = $1', [id])).length > 0;
  }

  /** Names of the companies with their own version of a view. */
  async #changedBy(id: number): Promise<string[]> {
    const rows = await this.#database.select<{ name: string }>(
      'SELECT c.name FROM views v JOIN companies c ON c.id = v.company_id WHERE v.version_of = $1 ORDER BY c.id',
      [id],
    );
    return rows.map(({ name }) => name);
  }

  async #star({ company: companyId, view: key }: ViewPlace, starred: boolean, actor: Actor): Promise<void> {
    if (!shippedView(key)) await this.#row({ company: companyId, view: key }, actor);
    await this.#database.write((transaction) =>
      this.#database.run(
        starred
          ? 'INSERT INTO view_stars (company_id, person, view_key) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING'
          : 'DELETE FROM view_stars WHERE company_id = $1 AND person = $2 AND view_key = $3',
        [companyId, actor.name, key],
        transaction,
      ),
    );
  }

  /** Keeps what a person chose last for a view. @throws ProblemError 404 */
  async remember({ company: companyId, view: key }: ViewPlace, choices: Readonly<Record<string, string>>, actor: Actor): Promise<void> {
    if (!shippedView(key)) await this.#row({ company: companyId, view: key }, actor);
    await this.#database.write((transaction) =>
      this.#database.run(
        'INSERT INTO view_choices (company_id, person, view_key, choices) VALUES ($1, $2, $3, $4) ON CONFLICT (company_id, person, view_key) DO UPDATE SET choices = excluded.choices',
        [companyId, actor.name, key, JSON.stringify(choices)],
        transaction,
      ),
    );
  }

  async #choices(companyId: number, actor: Actor): Promise<Map<string, Record<string, string>>> {
    const rows = await this.#database.select<{ view_key: string; choices: string }>(
      'SELECT view_key, choices FROM view_choices WHERE company_id = $1 AND person = $2',
      [companyId, actor.name],
    );
    return new Map(rows.map(({ view_key, choices }) => [view_key, JSON.parse(choices) as Record<string, string>]));
  }

  async #stars(companyId: number, actor: Actor): Promise<Set<string>> {
    const rows = await this.#database.select<{ view_key: string }>(
      'SELECT view_key FROM view_stars WHERE company_id = $1 AND person = $2',
      [companyId, actor.name],
    );
    return new Set(rows.map(({ view_key }) => view_key));
  }

  async #own(companyId: number, key: string, actor: Actor): Promise<Row> {
    if (shippedView(key)) throw new ProblemError(409, 'Built-in view', 'A built-in view cannot be deleted.');
    return this.#row({ company: companyId, view: key }, actor);
  }

  async #row({ company: companyId, view: key }: ViewPlace, actor: Actor, transaction?: Transaction): Promise<Row> {
    const [row] = await this.#database.select<Row>(
      `SELECT * FROM views WHERE ((company_id = $1 AND (version_of = $2 OR (id = $2 AND version_of IS NULL))) OR (company_id IS NULL AND id = $2))
       AND (shared = 1 OR owner = $3) ORDER BY version_of IS NULL LIMIT 1`,
      [companyId, idOf(key) ?? -1, actor.name],
      transaction,
    );
    if (!row) throw notFound(`view "${key}"`);
    return row;
  }

  async #refuseKnownName(
    { companyId, name, besides }: { readonly companyId: number; readonly name: string; readonly besides: readonly number[] | null },
    actor: Actor,
    transaction: Transaction,
  ): Promise<void> {
    const [held] = await this.#database.select<{ id: number }>(
      `SELECT id FROM views WHERE (company_id = $1 OR company_id IS NULL) AND owner = $2 AND name = $3 COLLATE NOCASE
       AND id NOT IN (SELECT value FROM json_each($4)) AND coalesce(version_of, 0) NOT IN (SELECT value FROM json_each($4))`,
      [companyId, actor.name, name, JSON.stringify(besides ?? [])],
      transaction,
    );
    if (held) throw refused(`You have a view named ${name} already. Give this one another name.`, 'name');
  }
}

const scopeOf = ({ company_id: company }: Pick<Row, 'company_id'>): Scope => (company === null ? 'all' : 'company');

const DEFINITIONS = { lineSet: 'lines', columnSet: 'columns', display: 'display', choices: 'filters' } as const;

/** What a save changes: texts as they were and are, definitions by the version that holds them. */
function viewChanges(row: Row, parts: Partial<z.infer<typeof newViewSchema>>, next: number): AuditChange[] {
  const texts = (
    [
      ['name', row.name],
      ['folder', row.folder],
      ['note', row.note],
    ] as const
  ).flatMap(([what, from]) => {
    const to = parts[what];
    return to === undefined || to === from ? [] : [{ what: what === 'note' ? 'description' : what, from, to }];
  });
  const shared =
    parts.shared === undefined || parts.shared === (row.shared === 1)
      ? []
      : [{ what: 'shared', from: parts.shared ? 'no' : 'yes', to: parts.shared ? 'yes' : 'no' }];
  const version = (number: number) => `version ${number}`;
  const definitions = (Object.keys(DEFINITIONS) as (keyof typeof DEFINITIONS)[]).flatMap((part) =>
    parts[part] === undefined ? [] : [{ what: DEFINITIONS[part], from: version(row.version), to: version(next) }],
  );
  return [...texts, ...shared, ...definitions];
}
