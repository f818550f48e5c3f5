import type { Migration } from './migration.ts';

/** Figures that are not money, by series, period and dimension combination. */
export const statistics: Migration = {
  name: '0003-statistics',
  statements: [
    `CREATE TABLE statistics (
      company_id INTEGER NOT NULL REFERENCES companies(id), series TEXT NOT NULL, period_code INTEGER NOT NULL, dimension_values TEXT NOT NULL, value REAL NOT NULL,
      PRIMARY KEY (company_id, series, period_code, dimension_values)) WITHOUT ROWID`,
  ],
};
