import type { Scope } from '@wise-margin/contract';
import type { Transaction } from 'sequelize';

import type { Database } from '../../database/database.ts';
import { notFound, refused } from '../../http/problem.ts';
import { scopeOf, viewIdOf, type ViewPlace, type ViewRow } from './view-row.ts';

/** What a person sees in a company: $1 and $2. */
const SEEN = `(company_id = $1 OR (company_id IS NULL AND id NOT IN
  (SELECT version_of FROM views WHERE company_id = $1 AND version_of IS NOT NULL AND (shared = 1 OR owner = $2))))
  AND (shared = 1 OR owner = $2)`;

/**
 * Saved views in the database, kept for one company or for all. A company sees its own version of a view, else the one for
 * all companies; a private view is there for its owner only.
 */
export class ViewRows {
  readonly #database: Database;

  constructor(database: Database) {
    this.#database = database;
  }

  /** The views that a person sees in a company, by folder and name. */
  list(companyId: number, person: string): Promise<ViewRow[]> {
    return this.#database.select<ViewRow>(`SELECT * FROM views WHERE ${SEEN} ORDER BY folder COLLATE NOCASE, name COLLATE NOCASE`, [
      companyId,
      person,
    ]);
  }

  /** The view that a person sees under a key in a company; null when there is none. */
  async find({ company: companyId, view: key }: ViewPlace, person: string, transaction?: Transaction): Promise<ViewRow | null> {
    const [row] = await this.#database.select<ViewRow>(
      `SELECT * FROM views WHERE ((company_id = $1 AND (version_of = $2 OR (id = $2 AND version_of IS NULL))) OR (company_id IS NULL AND id = $2))
       AND (shared = 1 OR owner = $3) ORDER BY version_of IS NULL LIMIT 1`,
      [companyId, viewIdOf(key) ?? -1, person],
      transaction,
    );
    return row ?? null;
  }

  /** @throws ProblemError 404 when there is none, or it is another person's private one */
  async get(place: ViewPlace, person: string, transaction?: Transaction): Promise<ViewRow> {
    const row = await this.find(place, person, transaction);
    if (!row) throw notFound(`view "${place.view}"`);
    return row;
  }

  async isThere(id: number, transaction?: Transaction): Promise<boolean> {
    return (await this.#database.select<{ id: number }>('SELECT id FROM views WHERE id = $1', [id], transaction)).length > 0;
  }

  /** The number of the view that was made last. */
  async lastId(transaction: Transaction): Promise<number> {
    const [made] = await this.#database.select<{ id: number }>('SELECT max(id) AS id FROM views', [], transaction);
    return made!.id;
  }

  /** Names of the companies with their own version of a view. */
  async changedBy(id: number): Promise<string[]> {
    const rows = await this.#database.select<{ name: string }>(
      'SELECT c.name FROM views v JOIN companies c ON c.id = v.company_id WHERE v.version_of = $1 ORDER BY c.id',
      [id],
    );
    return rows.map(({ name }) => name);
  }

  /** Names of the views that a person sees in a company and that take their lines or columns from one. */
  async usersOf({ company, view }: ViewPlace, person: string): Promise<{ lines: string[]; columns: string[] }> {
    const rows = await this.#database.select<Pick<ViewRow, 'name' | 'lines_of' | 'columns_of'>>(
      `SELECT name, lines_of, columns_of FROM views WHERE $3 IN (lines_of, columns_of) AND ${SEEN} ORDER BY name COLLATE NOCASE`,
      [company, person, view],
    );
    const named = (part: 'lines_of' | 'columns_of') => rows.filter((row) => row[part] === view).map(({ name }) => name);
    return { lines: named('lines_of'), columns: named('columns_of') };
  }

  /** Versions of a view and of every company's own count on together, so that no two saves have one. */
  async nextVersion({ id, version_of: of }: ViewRow, transaction: Transaction): Promise<number> {
    const [latest] = await this.#database.select<{ version: number }>(
      'SELECT max(version) AS version FROM views WHERE id = $1 OR version_of = $1',
      [of ?? id],
      transaction,
    );
    return latest!.version + 1;
  }

  /** The row a save goes to: the one that was opened, the company's own version of it, or the view for all companies. */
  async target(
    { row, companyId, scope = scopeOf(row) }: { readonly row: ViewRow; readonly companyId: number; readonly scope: Scope | undefined },
    transaction: Transaction,
  ): Promise<Pick<ViewRow, 'id' | 'company_id' | 'version_of'>> {
    if (scope === 'company' && row.company_id === null) {
      await this.#database.run(
        `INSERT INTO views (company_id, name, folder, note, line_set, column_set, lines_of, columns_of, display, choices, shared, owner, version, saved_at, version_of)
         SELECT $2, name, folder, note, line_set, column_set, lines_of, columns_of, display, choices, shared, owner, version, saved_at, id FROM views WHERE id = $1`,
        [row.id, companyId],
        transaction,
      );
      return { id: await this.lastId(transaction), company_id: companyId, version_of: row.id };
    }
    if (scope === 'company') return row;
    const isReplacing = row.version_of !== null && (await this.isThere(row.version_of, transaction));
    // where the view for all was deleted, a company's own version takes its place, under its own number
    return { id: isReplacing ? row.version_of! : row.id, company_id: null, version_of: null };
  }

  /** Writes a view over the one of the same number; its owner stays. */
  async write(row: Omit<ViewRow, 'owner'>, transaction: Transaction): Promise<void> {
    const { id, ...fields } = row;
    const names = Object.keys(fields);
    await this.#database.run(
      `UPDATE views SET ${names.map((name, index) => `${name} = $${index + 2}`).join(', ')} WHERE id = $1`,
      [id, ...Object.values(fields)],
      transaction,
    );
  }

  /** @throws ProblemError 422 for a name the person uses already, where the view is kept */
  async refuseKnownName(
    { companyId, name, except }: { readonly companyId: number; readonly name: string; readonly except: readonly number[] },
    person: string,
    transaction: Transaction,
  ): Promise<void> {
    const [held] = await this.#database.select<{ id: number }>(
      `SELECT id FROM views WHERE (company_id = $1 OR company_id IS NULL) AND owner = $2 AND name = $3 COLLATE NOCASE
       AND id NOT IN (SELECT value FROM json_each($4)) AND coalesce(version_of, 0) NOT IN (SELECT value FROM json_each($4))`,
      [companyId, person, name, JSON.stringify(except)],
      transaction,
    );
    if (held) throw refused(`You have a view named ${name} already. Give this one another name.`, 'name');
  }
}
