import type { Migration } from './migration.ts';

/** How the balance-sheet accounts of a budget move where that was set manually, and each change of it. */
export const balancePlan: Migration = {
  name: '0006-balance-plan',
  statements: [
    `CREATE TABLE budget_balance_rules (
      budget_id INTEGER NOT NULL REFERENCES budgets(id) ON DELETE CASCADE, account TEXT NOT NULL, rule TEXT NOT NULL CHECK (json_valid(rule)),
      PRIMARY KEY (budget_id, account)) WITHOUT ROWID`,
    `ALTER TABLE budget_changes ADD COLUMN rules TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(rules))`,
  ],
};
