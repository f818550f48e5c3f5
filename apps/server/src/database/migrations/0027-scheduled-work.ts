import type { Migration } from './migration.ts';

/** Schedules send views and watch reports beside packs; files that are no issue are stored with their messages. */
export const scheduledWork: Migration = {
  name: '0027-scheduled-work',
  statements: [
    `UPDATE schedules SET content = json_set(json_remove(content, '$.pack'), '$.what', json_object('kind', 'pack', 'pack', json_extract(content, '$.pack')))
     WHERE json_extract(content, '$.pack') IS NOT NULL`,
    // attached to every message of the same request
    `CREATE TABLE mail_files (
      company_id INTEGER NOT NULL REFERENCES companies(id), key TEXT NOT NULL, position INTEGER NOT NULL, name TEXT NOT NULL, type TEXT NOT NULL, content BLOB NOT NULL,
      PRIMARY KEY (company_id, key, position)) WITHOUT ROWID`,
  ],
};
