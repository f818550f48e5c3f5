import type { Migration } from './migration.ts';

/** Entries have versions: what a change replaced is kept with the change and its reason. */
export const entryChanges: Migration = {
  name: '0014-entry-changes',
  statements: [
    `ALTER TABLE entries ADD COLUMN version INTEGER NOT NULL DEFAULT 1`,
    `CREATE TABLE entry_changes (
      id INTEGER PRIMARY KEY AUTOINCREMENT, company_id INTEGER NOT NULL REFERENCES companies(id), at TEXT NOT NULL, actor TEXT NOT NULL,
      kind TEXT NOT NULL CHECK (kind IN ('correct', 'reclassify', 'undo')), reason TEXT NOT NULL, entries INTEGER NOT NULL,
      undoes INTEGER REFERENCES entry_changes(id), undone_by INTEGER REFERENCES entry_changes(id))`,
    // the content of a version as it was before a change replaced it
    `CREATE TABLE entry_versions (
      entry_id INTEGER NOT NULL REFERENCES entries(id), version INTEGER NOT NULL, change_id INTEGER NOT NULL REFERENCES entry_changes(id),
      content TEXT NOT NULL CHECK (json_valid(content)), PRIMARY KEY (entry_id, version)) WITHOUT ROWID`,
    `CREATE INDEX entry_versions_by_change ON entry_versions (change_id)`,
  ],
};
