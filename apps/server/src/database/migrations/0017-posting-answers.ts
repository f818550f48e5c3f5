import type { Migration } from './migration.ts';

/** What people answered about suspected postings: answered ones stay answered. */
export const postingAnswers: Migration = {
  name: '0017-posting-answers',
  statements: [
    `CREATE TABLE posting_answers (
      company_id INTEGER NOT NULL REFERENCES companies(id), posting TEXT NOT NULL, answer TEXT NOT NULL CHECK (answer IN ('fine', 'needsCorrection', 'corrected')),
      reason TEXT NOT NULL, learns INTEGER NOT NULL DEFAULT 0, kinds TEXT NOT NULL CHECK (json_valid(kinds)), account TEXT NOT NULL, party TEXT NOT NULL,
      at TEXT NOT NULL, person TEXT NOT NULL, PRIMARY KEY (company_id, posting)) WITHOUT ROWID`,
  ],
};
