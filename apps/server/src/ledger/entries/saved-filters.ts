import type { SavedFiltersDto } from '@wise-margin/contract';

import type { BooksCache } from '../../companies/index.ts';
import type { Database } from '../../database/database.ts';

/** Choices of the list of entries, kept under names for everybody. */
export class SavedFilters {
  readonly #database: Database;
  readonly #booksCache: BooksCache;

  constructor(database: Database, booksCache: BooksCache) {
    this.#database = database;
    this.#booksCache = booksCache;
  }

  /** In order of name. */
  async list(companyId: number): Promise<SavedFiltersDto> {
    await this.#booksCache.of(companyId);
    return this.#database.select('SELECT id, name, address FROM entry_filters WHERE company_id = $1 ORDER BY name COLLATE NOCASE', [
      companyId,
    ]);
  }

  /** Keeps choices under a name; those it had are replaced. */
  async save(companyId: number, { name, address }: { readonly name: string; readonly address: string }): Promise<SavedFiltersDto> {
    await this.#booksCache.of(companyId);
    await this.#database.write((transaction) =>
      this.#database.run(
        'INSERT INTO entry_filters (company_id, name, address) VALUES ($1, $2, $3) ON CONFLICT (company_id, name) DO UPDATE SET address = excluded.address',
        [companyId, name, address],
        transaction,
      ),
    );
    return this.list(companyId);
  }

  async remove(companyId: number, id: number): Promise<SavedFiltersDto> {
    await this.#database.write((transaction) =>
      this.#database.run('DELETE FROM entry_filters WHERE id = $1 AND company_id = $2', [id, companyId], transaction),
    );
    return this.list(companyId);
  }
}
