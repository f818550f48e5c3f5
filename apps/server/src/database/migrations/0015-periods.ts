import type { Migration } from './migration.ts';

/**
 * Periods that are closed, entries made by a person, templates of entries, and what a reviewer ticked off. The record of
 * changes takes their kinds, and keeps versions of drafts that are gone.
 */
export const periods: Migration = {
  name: '0015-periods',
  statements: [
    `CREATE TABLE period_states (
      company_id INTEGER NOT NULL REFERENCES companies(id), period_code INTEGER NOT NULL, state TEXT NOT NULL CHECK (state IN ('softClosed', 'closed')),
      PRIMARY KEY (company_id, period_code)) WITHOUT ROWID`,
    // who may post in a soft-closed period
    `CREATE TABLE period_people (company_id INTEGER NOT NULL REFERENCES companies(id), person TEXT NOT NULL, PRIMARY KEY (company_id, person)) WITHOUT ROWID`,
    // entries that this one corrects or reverses; they may have been discarded since
    `ALTER TABLE entries ADD COLUMN corrects INTEGER`,
    `ALTER TABLE entries ADD COLUMN reverses INTEGER`,
    `CREATE INDEX entries_correcting ON entries (corrects) WHERE corrects IS NOT NULL`,
    `CREATE INDEX entries_reversing ON entries (reverses) WHERE reverses IS NOT NULL`,
    `CREATE TABLE entry_templates (
      id INTEGER PRIMARY KEY AUTOINCREMENT, company_id INTEGER NOT NULL REFERENCES companies(id), name TEXT NOT NULL, content TEXT NOT NULL CHECK (json_valid(content)),
      next_date TEXT, day INTEGER, UNIQUE (company_id, name))`,
    // the choices of the list of entries, as its address holds them
    `CREATE TABLE entry_filters (
      id INTEGER PRIMARY KEY AUTOINCREMENT, company_id INTEGER NOT NULL REFERENCES companies(id), name TEXT NOT NULL, address TEXT NOT NULL, UNIQUE (company_id, name))`,
    `CREATE TABLE reviewed_events (event_id INTEGER PRIMARY KEY REFERENCES audit_events(id), at TEXT NOT NULL, actor TEXT NOT NULL)`,
    `CREATE TABLE changes_made (
      id INTEGER PRIMARY KEY AUTOINCREMENT, company_id INTEGER NOT NULL REFERENCES companies(id), at TEXT NOT NULL, actor TEXT NOT NULL,
      kind TEXT NOT NULL CHECK (kind IN ('correct', 'reclassify', 'undo', 'create', 'post', 'discard')), reason TEXT NOT NULL, entries INTEGER NOT NULL,
      undoes INTEGER REFERENCES changes_made(id), undone_by INTEGER REFERENCES changes_made(id))`,
    `INSERT INTO changes_made SELECT * FROM entry_changes`,
    `CREATE TABLE versions_kept (
      entry_id INTEGER NOT NULL, version INTEGER NOT NULL, change_id INTEGER NOT NULL REFERENCES changes_made(id),
      content TEXT NOT NULL CHECK (json_valid(content)), PRIMARY KEY (entry_id, version)) WITHOUT ROWID`,
    `INSERT INTO versions_kept SELECT * FROM entry_versions`,
    `DROP TABLE entry_versions`,
    `DROP TABLE entry_changes`,
    `ALTER TABLE changes_made RENAME TO entry_changes`,
    `ALTER TABLE versions_kept RENAME TO entry_versions`,
    `CREATE INDEX entry_versions_by_change ON entry_versions (change_id)`,
  ],
};
