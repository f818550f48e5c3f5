import type { Migration } from './migration.ts';

/** Bank statements of cash accounts, and which of their lines and of the ledger are the same money. */
export const reconciliation: Migration = {
  name: '0019-reconciliation',
  statements: [
    // what the files of a cash account look like: the bank's number of it, and the columns of its CSV files
    `CREATE TABLE bank_accounts (
      company_id INTEGER NOT NULL REFERENCES companies(id), account_id INTEGER NOT NULL REFERENCES accounts(id), bank_account TEXT NOT NULL, mapping TEXT,
      PRIMARY KEY (company_id, account_id)) WITHOUT ROWID`,
    `CREATE TABLE bank_statements (
      id INTEGER PRIMARY KEY AUTOINCREMENT, company_id INTEGER NOT NULL REFERENCES companies(id), account_id INTEGER NOT NULL REFERENCES accounts(id),
      format TEXT NOT NULL CHECK (format IN ('csv', 'ofx', 'camt053')), file TEXT NOT NULL, fingerprint TEXT NOT NULL, from_date TEXT NOT NULL, to_date TEXT NOT NULL,
      opening INTEGER NOT NULL CHECK (typeof(opening) = 'integer'), closing INTEGER NOT NULL CHECK (typeof(closing) = 'integer'), at TEXT NOT NULL, person TEXT NOT NULL)`,
    `CREATE TABLE clearings (
      id INTEGER PRIMARY KEY AUTOINCREMENT, company_id INTEGER NOT NULL REFERENCES companies(id), account_id INTEGER NOT NULL REFERENCES accounts(id),
      kind TEXT NOT NULL CHECK (kind IN ('matched', 'adjustment', 'difference')), at TEXT NOT NULL, person TEXT NOT NULL,
      difference INTEGER NOT NULL DEFAULT 0, reason TEXT NOT NULL DEFAULT '', explanation TEXT NOT NULL DEFAULT '', other_account TEXT NOT NULL DEFAULT '')`,
    `CREATE TABLE bank_lines (
      id INTEGER PRIMARY KEY, statement_id INTEGER NOT NULL REFERENCES bank_statements(id), date TEXT NOT NULL, amount INTEGER NOT NULL CHECK (typeof(amount) = 'integer'),
      text TEXT NOT NULL, reference TEXT NOT NULL, party TEXT NOT NULL, clearing_id INTEGER REFERENCES clearings(id))`,
    `CREATE INDEX bank_lines_by_statement ON bank_lines (statement_id)`,
    `CREATE INDEX bank_lines_by_clearing ON bank_lines (clearing_id)`,
    `CREATE TABLE cleared_lines (line_id INTEGER PRIMARY KEY, clearing_id INTEGER NOT NULL REFERENCES clearings(id))`,
    `CREATE INDEX cleared_lines_by_clearing ON cleared_lines (clearing_id)`,
    // lines before the first statement that the bank had not seen by then
    `CREATE TABLE outstanding_lines (line_id INTEGER PRIMARY KEY, company_id INTEGER NOT NULL REFERENCES companies(id))`,
    // numbers of lines are given again: what was said of one that is gone must not hold for another
    `CREATE TRIGGER line_deleted AFTER DELETE ON lines BEGIN
      DELETE FROM cleared_lines WHERE line_id = old.id; DELETE FROM outstanding_lines WHERE line_id = old.id; END`,
  ],
};
