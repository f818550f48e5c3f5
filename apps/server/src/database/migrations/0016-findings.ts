import type { Migration } from './migration.ts';

/** Limits of materiality, and what people said about findings. The findings themselves are computed. */
export const findings: Migration = {
  name: '0016-findings',
  statements: [
    `CREATE TABLE materiality (company_id INTEGER PRIMARY KEY REFERENCES companies(id), limits TEXT NOT NULL CHECK (json_valid(limits)))`,
    `CREATE TABLE findings (
      id INTEGER PRIMARY KEY AUTOINCREMENT, company_id INTEGER NOT NULL REFERENCES companies(id), view TEXT NOT NULL, line TEXT NOT NULL,
      comparison TEXT NOT NULL CHECK (comparison IN ('budget', 'priorYear', 'priorMonth', 'projection')), month TEXT NOT NULL,
      status TEXT NOT NULL DEFAULT 'open' CHECK (status IN ('open', 'explained', 'needsCorrection', 'corrected', 'accepted')),
      owner TEXT NOT NULL DEFAULT '', due TEXT, is_timing INTEGER NOT NULL DEFAULT 0, variance INTEGER NOT NULL DEFAULT 0,
      comment TEXT NOT NULL DEFAULT '', figures TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(figures)),
      UNIQUE (company_id, view, line, comparison, month))`,
    `CREATE TABLE finding_notes (
      id INTEGER PRIMARY KEY AUTOINCREMENT, finding_id INTEGER NOT NULL REFERENCES findings(id), at TEXT NOT NULL, person TEXT NOT NULL,
      kind TEXT NOT NULL CHECK (kind IN ('status', 'comment', 'question', 'answer')), text TEXT NOT NULL)`,
    `CREATE INDEX finding_notes_by_finding ON finding_notes (finding_id)`,
  ],
};
