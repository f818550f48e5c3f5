import type { Migration } from './migration.ts';

/** The indexes of ledger lines, apart so that a large import can make them after its rows. */
export const LINE_INDEXES = {
  lines_by_account: 'CREATE INDEX lines_by_account ON lines (account_id, period_code)',
  lines_by_entry: 'CREATE INDEX lines_by_entry ON lines (entry_id)',
  lines_by_amount: 'CREATE INDEX lines_by_amount ON lines (abs(amount))',
} as const;

/** Companies, ledger, balances, budgets and the audit record. Numbers that people see (companies, imports, budgets) are never given twice. Money is INTEGER minor units, dates ISO text. */
export const firstTables: Migration = {
  name: '0001-first-tables',
  statements: [
    `CREATE TABLE companies (
      id INTEGER PRIMARY KEY AUTOINCREMENT, name TEXT NOT NULL UNIQUE COLLATE NOCASE, currency TEXT NOT NULL, start_month INTEGER NOT NULL CHECK (start_month BETWEEN 1 AND 12),
      has_adjustment_period INTEGER NOT NULL DEFAULT 0, version INTEGER NOT NULL DEFAULT 0, created_at TEXT NOT NULL)`,
    `CREATE TABLE fiscal_years (company_id INTEGER NOT NULL REFERENCES companies(id), year INTEGER NOT NULL, PRIMARY KEY (company_id, year)) WITHOUT ROWID`,
    `CREATE TABLE accounts (
      id INTEGER PRIMARY KEY, company_id INTEGER NOT NULL REFERENCES companies(id), position INTEGER NOT NULL, number TEXT NOT NULL, name TEXT NOT NULL,
      class TEXT NOT NULL, group_name TEXT, active INTEGER NOT NULL DEFAULT 1, polarity TEXT, cashflow TEXT,
      UNIQUE (company_id, number), UNIQUE (company_id, position))`,
    `CREATE TABLE dimensions (id INTEGER PRIMARY KEY, company_id INTEGER NOT NULL REFERENCES companies(id), name TEXT NOT NULL, UNIQUE (company_id, name))`,
    `CREATE TABLE combinations (id INTEGER PRIMARY KEY, company_id INTEGER NOT NULL REFERENCES companies(id), dimension_values TEXT NOT NULL, UNIQUE (company_id, dimension_values))`,
    `CREATE TABLE parties (id INTEGER PRIMARY KEY, company_id INTEGER NOT NULL REFERENCES companies(id), name TEXT NOT NULL, UNIQUE (company_id, name))`,
    `CREATE TABLE imports (
      id INTEGER PRIMARY KEY AUTOINCREMENT, company_id INTEGER REFERENCES companies(id), new_company TEXT, state TEXT NOT NULL, created_at TEXT NOT NULL, posted_at TEXT,
      actor TEXT NOT NULL, files TEXT NOT NULL, preview TEXT, base TEXT, issue_count INTEGER NOT NULL DEFAULT 0, failure TEXT)`,
    `CREATE TABLE entries (
      id INTEGER PRIMARY KEY, company_id INTEGER NOT NULL REFERENCES companies(id), number TEXT NOT NULL, date TEXT NOT NULL, period_code INTEGER NOT NULL,
      source TEXT NOT NULL, kind TEXT NOT NULL, state TEXT NOT NULL, import_id INTEGER REFERENCES imports(id), UNIQUE (company_id, number))`,
    `CREATE TABLE lines (
      id INTEGER PRIMARY KEY, entry_id INTEGER NOT NULL REFERENCES entries(id), account_id INTEGER NOT NULL REFERENCES accounts(id), period_code INTEGER NOT NULL,
      amount INTEGER NOT NULL CHECK (typeof(amount) = 'integer'), combination_id INTEGER NOT NULL REFERENCES combinations(id), party_id INTEGER REFERENCES parties(id),
      memo TEXT NOT NULL, document TEXT NOT NULL, due TEXT)`,
    ...Object.values(LINE_INDEXES),
    `CREATE TABLE balances (
      company_id INTEGER NOT NULL, account_id INTEGER NOT NULL REFERENCES accounts(id), period_code INTEGER NOT NULL, combination_id INTEGER NOT NULL REFERENCES combinations(id),
      layer TEXT NOT NULL, debit INTEGER NOT NULL CHECK (typeof(debit) = 'integer'), credit INTEGER NOT NULL CHECK (typeof(credit) = 'integer'),
      PRIMARY KEY (company_id, account_id, period_code, combination_id, layer)) WITHOUT ROWID`,
    `CREATE TABLE budgets (
      id INTEGER PRIMARY KEY AUTOINCREMENT, company_id INTEGER NOT NULL REFERENCES companies(id), year INTEGER NOT NULL, name TEXT NOT NULL, from_year INTEGER, state TEXT NOT NULL,
      dimension TEXT, version INTEGER NOT NULL DEFAULT 0, created_at TEXT NOT NULL, actor TEXT NOT NULL, UNIQUE (company_id, year, name))`,
    `CREATE TABLE budget_lines (
      id INTEGER PRIMARY KEY, budget_id INTEGER NOT NULL REFERENCES budgets(id) ON DELETE CASCADE, account_id INTEGER NOT NULL REFERENCES accounts(id),
      dimension_values TEXT NOT NULL, basis TEXT NOT NULL, UNIQUE (budget_id, account_id, dimension_values))`,
    `CREATE TABLE budget_cells (
      line_id INTEGER NOT NULL REFERENCES budget_lines(id) ON DELETE CASCADE, month INTEGER NOT NULL CHECK (month BETWEEN 0 AND 11),
      amount INTEGER NOT NULL CHECK (typeof(amount) = 'integer'), held INTEGER NOT NULL DEFAULT 0, PRIMARY KEY (line_id, month)) WITHOUT ROWID`,
    `CREATE TABLE audit_events (
      id INTEGER PRIMARY KEY, company_id INTEGER, at TEXT NOT NULL, actor TEXT NOT NULL, action TEXT NOT NULL, subject TEXT NOT NULL, details TEXT NOT NULL)`,
    `CREATE TRIGGER audit_events_no_update BEFORE UPDATE ON audit_events BEGIN SELECT RAISE(ABORT, 'audit events are only added'); END`,
    `CREATE TRIGGER audit_events_no_delete BEFORE DELETE ON audit_events BEGIN SELECT RAISE(ABORT, 'audit events are only added'); END`,
  ],
};
