import type { Migration } from './migration.ts';

/** The statistic whose volumes a line goes by and the one of what it uses up, with what budgets planned of both; drafted comments that were rejected; choices of people. */
export const lineDrivers: Migration = {
  name: '0020-line-drivers',
  statements: [
    `CREATE TABLE line_drivers (
      company_id INTEGER NOT NULL REFERENCES companies(id), line TEXT NOT NULL, series TEXT NOT NULL, planned TEXT NOT NULL,
      input TEXT NOT NULL, planned_input TEXT NOT NULL, PRIMARY KEY (company_id, line)) WITHOUT ROWID`,
    // the template of the drafted comment that a person rejected: another one is shown again
    `ALTER TABLE findings ADD COLUMN rejected TEXT NOT NULL DEFAULT ''`,
    // what a person chose for a company, such as the measures of the overview
    `CREATE TABLE personal_choices (
      company_id INTEGER NOT NULL REFERENCES companies(id), person TEXT NOT NULL, name TEXT NOT NULL, choice TEXT NOT NULL CHECK (json_valid(choice)),
      PRIMARY KEY (company_id, person, name)) WITHOUT ROWID`,
  ],
};
