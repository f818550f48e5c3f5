import type { Migration } from './migration.ts';

/** Saved views with their lines and columns as JSON, and each person's stars, on shipped views too. */
export const views: Migration = {
  name: '0002-views',
  statements: [
    `CREATE TABLE views (
      id INTEGER PRIMARY KEY AUTOINCREMENT, company_id INTEGER NOT NULL REFERENCES companies(id), name TEXT NOT NULL, shelf TEXT NOT NULL, note TEXT NOT NULL,
      line_set TEXT NOT NULL CHECK (json_valid(line_set)), column_set TEXT NOT NULL CHECK (json_valid(column_set)), shared INTEGER NOT NULL DEFAULT 0,
      owner TEXT NOT NULL, version INTEGER NOT NULL DEFAULT 1, saved_at TEXT NOT NULL, UNIQUE (company_id, owner, name))`,
    `CREATE TABLE view_stars (
      company_id INTEGER NOT NULL REFERENCES companies(id), person TEXT NOT NULL, view_key TEXT NOT NULL, PRIMARY KEY (company_id, person, view_key)) WITHOUT ROWID`,
  ],
};
