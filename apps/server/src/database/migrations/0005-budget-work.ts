import type { Migration } from './migration.ts';

/** Budgets kept by several dimensions, their notes and answers, every change to them, and what of the ledger is not recurring. */
export const budgetWork: Migration = {
  name: '0005-budget-work',
  statements: [
    `ALTER TABLE budgets ADD COLUMN dimensions TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(dimensions))`,
    `UPDATE budgets SET dimensions = json_array(dimension) WHERE dimension IS NOT NULL`,
    `ALTER TABLE budgets DROP COLUMN dimension`,
    `ALTER TABLE budgets ADD COLUMN note TEXT NOT NULL DEFAULT ''`,
    `ALTER TABLE budgets ADD COLUMN copied_from INTEGER`,
    `CREATE TABLE budget_notes (
      budget_id INTEGER NOT NULL REFERENCES budgets(id) ON DELETE CASCADE, account TEXT NOT NULL, slice TEXT NOT NULL, month INTEGER NOT NULL CHECK (month BETWEEN -1 AND 11),
      text TEXT NOT NULL, at TEXT NOT NULL, actor TEXT NOT NULL, PRIMARY KEY (budget_id, account, slice, month)) WITHOUT ROWID`,
    `CREATE TABLE budget_answers (
      budget_id INTEGER NOT NULL REFERENCES budgets(id) ON DELETE CASCADE, finding TEXT NOT NULL, text TEXT NOT NULL, at TEXT NOT NULL, actor TEXT NOT NULL,
      PRIMARY KEY (budget_id, finding)) WITHOUT ROWID`,
    `CREATE TABLE budget_changes (
      id INTEGER PRIMARY KEY AUTOINCREMENT, budget_id INTEGER NOT NULL REFERENCES budgets(id) ON DELETE CASCADE, version INTEGER NOT NULL, at TEXT NOT NULL, actor TEXT NOT NULL,
      session TEXT NOT NULL, kind TEXT NOT NULL, of_change INTEGER, words TEXT NOT NULL, lines TEXT NOT NULL CHECK (json_valid(lines)), notes TEXT NOT NULL CHECK (json_valid(notes)),
      cells TEXT NOT NULL CHECK (json_valid(cells)), taken_back INTEGER NOT NULL DEFAULT 0, request_key TEXT)`,
    // a request that was saved and whose answer was lost is sent again: it counts once
    `CREATE UNIQUE INDEX budget_changes_once ON budget_changes (budget_id, request_key) WHERE request_key IS NOT NULL`,
    `CREATE INDEX budget_changes_by_version ON budget_changes (budget_id, version)`,
    `CREATE TABLE one_offs (
      id INTEGER PRIMARY KEY AUTOINCREMENT, company_id INTEGER NOT NULL REFERENCES companies(id), account_id INTEGER NOT NULL REFERENCES accounts(id), period_code INTEGER NOT NULL,
      entry_id INTEGER REFERENCES entries(id), reason TEXT NOT NULL, at TEXT NOT NULL, actor TEXT NOT NULL)`,
    `CREATE UNIQUE INDEX one_offs_once ON one_offs (company_id, account_id, period_code, coalesce(entry_id, 0))`,
  ],
};
