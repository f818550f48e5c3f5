import type { Transaction } from 'sequelize';

import type { Database } from '../../database/database.ts';
import type { ViewPlace } from './view-row.ts';

/** What each person keeps with a view of a company: a star, and what was chosen last. */
export class ViewMarks {
  readonly #database: Database;

  constructor(database: Database) {
    this.#database = database;
  }

  /** Keys of the views with a person's star. */
  async stars(companyId: number, person: string): Promise<Set<string>> {
    const rows = await this.#database.select<{ view_key: string }>(
      'SELECT view_key FROM view_stars WHERE company_id = $1 AND person = $2',
      [companyId, person],
    );
    return new Set(rows.map(({ view_key }) => view_key));
  }

  /** What a person chose last, by the key of a view. */
  async choices(companyId: number, person: string): Promise<Map<string, Record<string, string>>> {
    const rows = await this.#database.select<{ view_key: string; choices: string }>(
      'SELECT view_key, choices FROM view_choices WHERE company_id = $1 AND person = $2',
      [companyId, person],
    );
    return new Map(rows.map(({ view_key, choices }) => [view_key, JSON.parse(choices) as Record<string, string>]));
  }

  async star({ company: companyId, view: key }: ViewPlace, starred: boolean, person: string): Promise<void> {
    await this.#database.write((transaction) =>
      this.#database.run(
        starred
          ? 'INSERT INTO view_stars (company_id, person, view_key) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING'
          : 'DELETE FROM view_stars WHERE company_id = $1 AND person = $2 AND view_key = $3',
        [companyId, person, key],
        transaction,
      ),
    );
  }

  async choose({ company: companyId, view: key }: ViewPlace, choices: Readonly<Record<string, string>>, person: string): Promise<void> {
    await this.#database.write((transaction) =>
      this.#database.run(
        'INSERT INTO view_choices (company_id, person, view_key, choices) VALUES ($1, $2, $3, $4) ON CONFLICT (company_id, person, view_key) DO UPDATE SET choices = excluded.choices',
        [companyId, person, key, JSON.stringify(choices)],
        transaction,
      ),
    );
  }

  /** Removes what everyone keeps with a view, in one company or, for null, in all. */
  async remove(key: string, companyId: number | null, transaction: Transaction): Promise<void> {
    for (const table of ['view_stars', 'view_choices'])
      await this.#database.run(
        `DELETE FROM ${table} WHERE ($1 IS NULL OR company_id = $1) AND view_key = $2`,
        [companyId, key],
        transaction,
      );
  }
}
