import type { Migration } from './migration.ts';

const ofRealCompany = `(SELECT is_demo FROM companies c JOIN pack_issues i ON i.company_id = c.id WHERE i.id = old.issue_id) = 0`;

/** Keys of requests that changed something, each with its answer, so that asking again changes nothing; and issued packs are not deleted. */
export const requestKeys: Migration = {
  name: '0032-request-keys',
  statements: [
    `CREATE TABLE request_keys (
      key TEXT PRIMARY KEY, request TEXT NOT NULL, at TEXT NOT NULL, status INTEGER, answer TEXT) WITHOUT ROWID`,
    `CREATE INDEX request_keys_at ON request_keys (at)`,
    // demo companies are removed with everything that is theirs
    `CREATE TRIGGER pack_documents_kept BEFORE DELETE ON pack_documents WHEN ${ofRealCompany}
      BEGIN SELECT RAISE(ABORT, 'an issued pack is kept'); END`,
    `CREATE TRIGGER pack_files_kept BEFORE DELETE ON pack_files WHEN ${ofRealCompany}
      BEGIN SELECT RAISE(ABORT, 'an issued pack is kept'); END`,
    `CREATE TRIGGER pack_issues_kept BEFORE DELETE ON pack_issues WHEN (SELECT is_demo FROM companies WHERE id = old.company_id) = 0
      BEGIN SELECT RAISE(ABORT, 'an issued pack is kept'); END`,
  ],
};
