import type { Migration } from './migration.ts';

const COLUMNS = 'id, company_id, name, folder, note, line_set, column_set, shared, owner, version, saved_at, display, choices';

/**
 * Views, limits and benchmarks are kept for all companies, or for one. A view for all companies belongs to none; a company's
 * own version of it names the view it is a version of.
 */
export const forAllCompanies: Migration = {
  name: '0028-for-all-companies',
  statements: [
    `CREATE TABLE views_kept (
      id INTEGER PRIMARY KEY AUTOINCREMENT, company_id INTEGER REFERENCES companies(id), name TEXT NOT NULL, folder TEXT NOT NULL, note TEXT NOT NULL,
      line_set TEXT NOT NULL CHECK (json_valid(line_set)), column_set TEXT NOT NULL CHECK (json_valid(column_set)), shared INTEGER NOT NULL DEFAULT 0,
      owner TEXT NOT NULL, version INTEGER NOT NULL DEFAULT 1, saved_at TEXT NOT NULL, display TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(display)),
      choices TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(choices)), version_of INTEGER, UNIQUE (company_id, owner, name))`,
    `INSERT INTO views_kept (${COLUMNS}) SELECT ${COLUMNS} FROM views`,
    // numbers of views that were deleted are not given again
    `DELETE FROM sqlite_sequence WHERE name = 'views_kept'`,
    `INSERT INTO sqlite_sequence (name, seq) SELECT 'views_kept', seq FROM sqlite_sequence WHERE name = 'views'`,
    `DROP TABLE views`,
    `ALTER TABLE views_kept RENAME TO views`,
    `CREATE UNIQUE INDEX views_version_of ON views (company_id, version_of) WHERE version_of IS NOT NULL`,
    // amounts with the decimals of the currency they were entered in
    `CREATE TABLE materiality_for_all (id INTEGER PRIMARY KEY CHECK (id = 1), limits TEXT NOT NULL CHECK (json_valid(limits)), exponent INTEGER NOT NULL)`,
    `CREATE TABLE benchmarks_for_all (line_key TEXT PRIMARY KEY, kind TEXT NOT NULL, value REAL NOT NULL) WITHOUT ROWID`,
  ],
};
