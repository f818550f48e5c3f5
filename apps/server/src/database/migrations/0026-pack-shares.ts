import type { Migration } from './migration.ts';

/** Links to issued packs for people without access to the books; only a digest of each address is stored. */
export const packShares: Migration = {
  name: '0026-pack-shares',
  statements: [
    `CREATE TABLE pack_shares (
      id INTEGER PRIMARY KEY AUTOINCREMENT, company_id INTEGER NOT NULL REFERENCES companies(id), issue_id INTEGER NOT NULL REFERENCES pack_issues(id),
      digest TEXT NOT NULL UNIQUE, expires TEXT NOT NULL, drill_down INTEGER NOT NULL, created_at TEXT NOT NULL, created_by TEXT NOT NULL,
      revoked_at TEXT, opens INTEGER NOT NULL DEFAULT 0, last_opened_at TEXT)`,
    `CREATE INDEX pack_shares_issue ON pack_shares (issue_id)`,
  ],
};
