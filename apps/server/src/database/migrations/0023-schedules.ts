import type { Migration } from './migration.ts';

/** Packs that are issued and mailed by themselves, every time once; days that are no business days. */
export const schedules: Migration = {
  name: '0023-schedules',
  statements: [
    // runs due up to and at handled_through are done with; later ones are not
    `CREATE TABLE schedules (
      id INTEGER PRIMARY KEY AUTOINCREMENT, company_id INTEGER NOT NULL REFERENCES companies(id), content TEXT NOT NULL CHECK (json_valid(content)),
      is_held INTEGER NOT NULL DEFAULT 0, handled_through TEXT NOT NULL)`,
    `CREATE TABLE schedule_runs (
      id INTEGER PRIMARY KEY AUTOINCREMENT, schedule_id INTEGER NOT NULL REFERENCES schedules(id) ON DELETE CASCADE, due_at TEXT NOT NULL,
      state TEXT NOT NULL CHECK (state IN ('running', 'done', 'skipped', 'failed')), note TEXT NOT NULL DEFAULT '', issue_id INTEGER REFERENCES pack_issues(id),
      UNIQUE (schedule_id, due_at))`,
    `CREATE TABLE holidays (
      company_id INTEGER NOT NULL REFERENCES companies(id), date TEXT NOT NULL, name TEXT NOT NULL, PRIMARY KEY (company_id, date)) WITHOUT ROWID`,
  ],
};
