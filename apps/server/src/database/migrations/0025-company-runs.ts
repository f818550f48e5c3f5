import type { Migration } from './migration.ts';

/** One pack issued for several companies, and what became of each. */
export const companyRuns: Migration = {
  name: '0025-company-runs',
  statements: [
    // a key is given by whoever asks: the same request again begins nothing
    `CREATE TABLE company_runs (
      id INTEGER PRIMARY KEY AUTOINCREMENT, key TEXT NOT NULL UNIQUE, pack TEXT NOT NULL, pack_name TEXT NOT NULL, month TEXT NOT NULL,
      started_at TEXT NOT NULL, finished_at TEXT, by TEXT NOT NULL)`,
    `CREATE TABLE company_run_results (
      run_id INTEGER NOT NULL REFERENCES company_runs(id) ON DELETE CASCADE, company_id INTEGER NOT NULL REFERENCES companies(id) ON DELETE CASCADE,
      position INTEGER NOT NULL, state TEXT NOT NULL CHECK (state IN ('waiting', 'running', 'done', 'skipped', 'failed')), note TEXT NOT NULL DEFAULT '',
      issue_id INTEGER REFERENCES pack_issues(id) ON DELETE SET NULL, summary TEXT CHECK (summary IS NULL OR json_valid(summary)),
      PRIMARY KEY (run_id, company_id)) WITHOUT ROWID`,
  ],
};
