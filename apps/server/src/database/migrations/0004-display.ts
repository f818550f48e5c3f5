import type { Migration } from './migration.ts';

/** How views are shown and what they keep to, each person's last choices, benchmarks by line, and company logos. */
export const display: Migration = {
  name: '0004-display',
  statements: [
    `ALTER TABLE views ADD COLUMN display TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(display))`,
    `ALTER TABLE views ADD COLUMN choices TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(choices))`,
    `CREATE TABLE view_choices (
      company_id INTEGER NOT NULL REFERENCES companies(id), person TEXT NOT NULL, view_key TEXT NOT NULL, choices TEXT NOT NULL CHECK (json_valid(choices)),
      PRIMARY KEY (company_id, person, view_key)) WITHOUT ROWID`,
    `CREATE TABLE benchmarks (
      company_id INTEGER NOT NULL REFERENCES companies(id), line_key TEXT NOT NULL, kind TEXT NOT NULL, value REAL NOT NULL,
      PRIMARY KEY (company_id, line_key)) WITHOUT ROWID`,
    `CREATE TABLE company_logos (
      company_id INTEGER PRIMARY KEY REFERENCES companies(id), type TEXT NOT NULL, base64 TEXT NOT NULL, version INTEGER NOT NULL DEFAULT 1)`,
  ],
};
