import type { Actor } from '../database/audit.ts';
import type { Database } from '../database/database.ts';

/** What a person chose for a company, such as the measures of the overview; each choice under a name. */
export class PersonalChoices {
  readonly #database: Database;

  constructor(database: Database) {
    this.#database = database;
  }

  /** Null while nothing was chosen. */
  async of(companyId: number, name: string, actor: Actor): Promise<unknown> {
    const [row] = await this.#database.select<{ choice: string }>(
      'SELECT choice FROM personal_choices WHERE company_id = $1 AND person = $2 AND name = $3',
      [companyId, actor.name, name],
    );
    return row ? (JSON.parse(row.choice) as unknown) : null;
  }

  async set(
    companyId: number,
    { name, choice, actor }: { readonly name: string; readonly choice: unknown; readonly actor: Actor },
  ): Promise<void> {
    await this.#database.write((transaction) =>
      this.#database.run(
        `INSERT INTO personal_choices (company_id, person, name, choice) VALUES ($1, $2, $3, $4)
         ON CONFLICT DO UPDATE SET choice = excluded.choice`,
        [companyId, actor.name, name, JSON.stringify(choice)],
        transaction,
      ),
    );
  }
}
