import {
  displayChoicesSchema,
  type newViewSchema,
  runChoicesSchema,
  type Scope,
  type viewChangeSchema,
  type ViewDto,
  type ViewListDto,
} from '@wise-margin/contract';
import { SHIPPED_VIEWS, shippedView } from '@wise-margin/core';
import type { z } from 'zod';

import { type Actor, recordAudit } from '../../database/audit.ts';
import type { Database } from '../../database/database.ts';
import { ProblemError } from '../../http/problem.ts';
import { type SavedView, viewChanges } from './view-changes.ts';
import { ViewMarks } from './view-marks.ts';
import { scopeOf, viewKeyOf, type ViewPlace } from './view-row.ts';
import { ViewRows } from './view-rows.ts';
import { ViewSources } from './view-sources.ts';

/**
 * The library: the shipped views, and those people saved, for one company or for all. A company sees its own version of a
 * view, else the one for all companies: a change for all reaches every company that has not changed its own. A private view
 * is there for its owner only. Lines and columns can be those of another view.
 */
export class ViewStore {
  readonly #database: Database;
  readonly #rows: ViewRows;
  readonly #sources: ViewSources;
  readonly #marks: ViewMarks;

  constructor(database: Database) {
    this.#database = database;
    this.#rows = new ViewRows(database);
    this.#sources = new ViewSources(database, this.#rows);
    this.#marks = new ViewMarks(database);
  }

  async list(companyId: number, actor: Actor): Promise<ViewListDto> {
    const starred = await this.#marks.stars(companyId, actor.name);
    const chosen = await this.#marks.choices(companyId, actor.name);
    const saved = await this.#rows.list(companyId, actor.name);
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
        key: viewKeyOf(row),
        name: row.name,
        folder: row.folder,
        note: row.note,
        isShipped: false,
        scope: scopeOf(row),
        shared: row.shared === 1,
        owner: row.owner,
        starred: starred.has(viewKeyOf(row)),
        choices: chosen.get(viewKeyOf(row)) ?? {},
      })),
    ];
  }

  /** @throws ProblemError 404 when there is none, or it is another person's private one */
  async of(companyId: number, key: string, actor: Actor): Promise<ViewDto> {
    const starred = (await this.#marks.stars(companyId, actor.name)).has(key);
    const usedBy = await this.#rows.usersOf({ company: companyId, view: key }, actor.name);
    const shipped = shippedView(key);
    if (shipped) {
      const { name, folder, note, lineSet, columnSet } = shipped;
      const own = { isShipped: true, starred, shared: true, owner: '', version: 0, savedAt: null };
      const scope = { scope: 'all' as const, isOwnVersion: false, changedBy: [] };
      const sources = { linesOf: null, columnsOf: null, usedBy };
      return { key, name, folder, note, lineSet, columnSet, display: shipped.display ?? {}, choices: {}, ...sources, ...own, ...scope };
    }
    const row = await this.#rows.get({ company: companyId, view: key }, actor.name);
    return {
      key,
      name: row.name,
      folder: row.folder,
      note: row.note,
      lineSet: await this.#sources.lineSet(row, companyId),
      columnSet: await this.#sources.columnSet(row, companyId),
      linesOf: await this.#sources.source(row, 'lines', companyId),
      columnsOf: await this.#sources.source(row, 'columns', companyId),
      usedBy,
      display: displayChoicesSchema.parse(JSON.parse(row.display)),
      choices: runChoicesSchema.parse(JSON.parse(row.choices)),
      isShipped: false,
      scope: scopeOf(row),
      isOwnVersion: row.version_of !== null && (await this.#rows.isThere(row.version_of)),
      changedBy: await this.#rows.changedBy(row.version_of ?? row.id),
      starred,
      shared: row.shared === 1,
      owner: row.owner,
      version: row.version,
      savedAt: row.saved_at,
    };
  }

  /** @throws ProblemError 422 for a name the person uses already, and for lines or columns of a view that cannot give them */
  async create(companyId: number, view: z.infer<typeof newViewSchema>, actor: Actor): Promise<ViewDto> {
    const id = await this.#database.write(async (transaction) => {
      await this.#rows.refuseKnownName({ companyId, name: view.name, except: [] }, actor.name, transaction);
      const saving = { row: null, parts: view, companyId, scope: view.scope, person: actor.name };
      const sets = await this.#sources.saved(saving, transaction);
      await this.#database.run(
        'INSERT INTO views (company_id, name, folder, note, line_set, column_set, lines_of, columns_of, display, choices, shared, owner, saved_at) VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13)',
        [
          view.scope === 'all' ? null : companyId,
          view.name,
          view.folder,
          view.note,
          sets.line_set,
          sets.column_set,
          sets.lines_of,
          sets.columns_of,
          JSON.stringify(view.display),
          JSON.stringify(view.choices),
          view.shared ? 1 : 0,
          actor.name,
          actor.now().toISOString(),
        ],
        transaction,
      );
      const made = await this.#rows.lastId(transaction);
      await recordAudit(
        this.#database,
        { companyId, actor, action: 'view.create', subject: `view-${made}`, details: { name: view.name, scope: view.scope } },
        transaction,
      );
      return made;
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
    if (starred !== undefined) {
      await this.#refuseUnknown({ company: companyId, view: key }, actor);
      await this.#marks.star({ company: companyId, view: key }, starred, actor.name);
    }
    if (Object.keys(changed).length > 0 || scope !== undefined) await this.#save({ companyId, key, version, scope }, changed, actor);
    return this.of(companyId, key, actor);
  }

  /** Deletes a view; a company's own version goes back to the view for all companies. */
  async remove(companyId: number, key: string, actor: Actor): Promise<void> {
    if (shippedView(key)) throw new ProblemError(409, 'Built-in view', 'A built-in view cannot be deleted.');
    const row = await this.#rows.get({ company: companyId, view: key }, actor.name);
    await this.#database.write(async (transaction) => {
      // of a company's version the view for all stays, with its stars; of a view for all, those of every company go
      if (row.version_of === null) await this.#marks.remove(key, row.company_id, transaction);
      await this.#sources.leave(row, companyId, transaction);
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
      const row = await this.#rows.get({ company: companyId, view: key }, actor.name, transaction);
      if (row.version !== version)
        throw new ProblemError(
          409,
          'Changed by someone else',
          `${row.name} was saved at ${row.saved_at.slice(0, 16).replace('T', ' ')} after you opened it. Save your changes under another name, or open the view again.`,
        );
      // for whom it is kept can change: its name has to be free there, too
      const isElsewhere = scope !== undefined && scope !== scopeOf(row);
      const except = [row.id, row.version_of ?? row.id];
      if (parts.name !== undefined || isElsewhere)
        await this.#rows.refuseKnownName({ companyId, name: parts.name ?? row.name, except }, actor.name, transaction);
      const saving = { row, parts, companyId, scope: scope ?? scopeOf(row), person: actor.name };
      const saved: SavedView = {
        name: parts.name ?? row.name,
        folder: parts.folder ?? row.folder,
        note: parts.note ?? row.note,
        ...(await this.#sources.saved(saving, transaction)),
        shared: (parts.shared ?? row.shared === 1) ? 1 : 0,
        display: parts.display ? JSON.stringify(parts.display) : row.display,
        choices: parts.choices ? JSON.stringify(parts.choices) : row.choices,
      };
      const target = await this.#rows.target({ row, companyId, scope }, transaction);
      const next = await this.#rows.nextVersion(row, transaction);
      await this.#rows.write(
        {
          ...saved,
          id: target.id,
          company_id: target.company_id,
          version_of: target.version_of,
          version: next,
          saved_at: actor.now().toISOString(),
        },
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
          changes: viewChanges(row, saved, next),
        },
        transaction,
      );
    });
  }

  /** Keeps what a person chose last for a view. @throws ProblemError 404 */
  async remember(place: ViewPlace, choices: Readonly<Record<string, string>>, actor: Actor): Promise<void> {
    await this.#refuseUnknown(place, actor);
    await this.#marks.choose(place, choices, actor.name);
  }

  async #refuseUnknown(place: ViewPlace, actor: Actor): Promise<void> {
    if (!shippedView(place.view)) await this.#rows.get(place, actor.name);
  }
}
