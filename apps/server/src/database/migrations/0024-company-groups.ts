import type { Migration } from './migration.ts';

/** Companies that are looked at together, and the rates between their currencies. */
export const companyGroups: Migration = {
  name: '0024-company-groups',
  statements: [
    `CREATE TABLE company_groups (
      id INTEGER PRIMARY KEY AUTOINCREMENT, name TEXT NOT NULL UNIQUE COLLATE NOCASE, currency TEXT NOT NULL, lead_id INTEGER REFERENCES companies(id) ON DELETE SET NULL,
      version INTEGER NOT NULL DEFAULT 1)`,
    `CREATE TABLE company_group_members (
      group_id INTEGER NOT NULL REFERENCES company_groups(id) ON DELETE CASCADE, company_id INTEGER NOT NULL REFERENCES companies(id) ON DELETE CASCADE,
      position INTEGER NOT NULL, intercompany TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(intercompany)), PRIMARY KEY (group_id, company_id)) WITHOUT ROWID`,
    `CREATE TABLE exchange_rates (
      from_currency TEXT NOT NULL, to_currency TEXT NOT NULL, month TEXT NOT NULL, average REAL NOT NULL CHECK (average > 0), closing REAL NOT NULL CHECK (closing > 0),
      PRIMARY KEY (from_currency, to_currency, month)) WITHOUT ROWID`,
  ],
};
