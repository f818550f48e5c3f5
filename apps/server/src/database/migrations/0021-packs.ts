import type { Migration } from './migration.ts';

/** Review packs: their designs, their texts by month, and what was issued. */
export const packs: Migration = {
  name: '0021-packs',
  statements: [
    // a design for every company has no company; one company’s own takes its place there
    `CREATE TABLE packs (
      id INTEGER PRIMARY KEY AUTOINCREMENT, company_id INTEGER REFERENCES companies(id), key TEXT NOT NULL, name TEXT NOT NULL, note TEXT NOT NULL,
      split_by TEXT, sections TEXT NOT NULL CHECK (json_valid(sections)), version INTEGER NOT NULL DEFAULT 1,
      saved_at TEXT NOT NULL, saved_by TEXT NOT NULL)`,
    `CREATE UNIQUE INDEX packs_key ON packs (coalesce(company_id, 0), key)`,
    `CREATE TABLE pack_months (
      company_id INTEGER NOT NULL REFERENCES companies(id), pack TEXT NOT NULL, month TEXT NOT NULL, state TEXT NOT NULL DEFAULT 'draft',
      meeting TEXT, texts TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(texts)), version INTEGER NOT NULL DEFAULT 1,
      PRIMARY KEY (company_id, pack, month)) WITHOUT ROWID`,
    `CREATE TABLE pack_issues (
      id INTEGER PRIMARY KEY AUTOINCREMENT, company_id INTEGER NOT NULL REFERENCES companies(id), pack TEXT NOT NULL, name TEXT NOT NULL,
      month TEXT NOT NULL, number INTEGER NOT NULL, at TEXT NOT NULL, by TEXT NOT NULL, UNIQUE (company_id, pack, month, number))`,
    // one document for each value a pack is split by; its pages and figures as they were, compressed
    `CREATE TABLE pack_documents (
      issue_id INTEGER NOT NULL REFERENCES pack_issues(id), slice TEXT NOT NULL, page_count INTEGER NOT NULL, fingerprint TEXT NOT NULL,
      pages BLOB NOT NULL, figures BLOB NOT NULL, changes TEXT CHECK (changes IS NULL OR json_valid(changes)), PRIMARY KEY (issue_id, slice)) WITHOUT ROWID`,
    `CREATE TABLE pack_files (
      issue_id INTEGER NOT NULL REFERENCES pack_issues(id), slice TEXT NOT NULL, format TEXT NOT NULL, content BLOB NOT NULL,
      PRIMARY KEY (issue_id, slice, format)) WITHOUT ROWID`,
    // what was issued stays as it was
    `CREATE TRIGGER pack_documents_stay BEFORE UPDATE ON pack_documents BEGIN SELECT RAISE(ABORT, 'an issued pack does not change'); END`,
    `CREATE TRIGGER pack_files_stay BEFORE UPDATE ON pack_files BEGIN SELECT RAISE(ABORT, 'an issued pack does not change'); END`,
  ],
};
