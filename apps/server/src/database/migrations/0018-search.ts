import { LINE_INDEXES } from './0001-first-tables.ts';
import type { Migration } from './migration.ts';

/**
 * A full-text index of entries, and one of amounts. Entries that were added, changed or deleted wait in `entry_texts_pending` until the index
 * has followed. Its rows are numbered by company, date and entry, so that the newest of a company are found first without
 * sorting: company * 2^48 + day * 2^32 + entry.
 */
export const search: Migration = {
  name: '0018-search',
  statements: [
    // folders made before it was among the first indexes
    LINE_INDEXES.lines_by_amount.replace('INDEX', 'INDEX IF NOT EXISTS'),
    `CREATE VIRTUAL TABLE entry_texts USING fts5(number, document, party, memo, content='', contentless_delete=1, tokenize='unicode61 remove_diacritics 2', prefix='2 3')`,
    `CREATE TABLE entry_text_rows (entry_id INTEGER PRIMARY KEY, text_row INTEGER NOT NULL)`,
    `CREATE TABLE entry_texts_pending (entry_id INTEGER PRIMARY KEY)`,
    `INSERT INTO entry_texts_pending SELECT id FROM entries`,
    `CREATE TRIGGER entry_added AFTER INSERT ON entries BEGIN INSERT OR IGNORE INTO entry_texts_pending VALUES (new.id); END`,
    `CREATE TRIGGER entry_changed AFTER UPDATE ON entries BEGIN INSERT OR IGNORE INTO entry_texts_pending VALUES (new.id); END`,
    `CREATE TRIGGER entry_deleted AFTER DELETE ON entries BEGIN INSERT OR IGNORE INTO entry_texts_pending VALUES (old.id); END`,
  ],
};
