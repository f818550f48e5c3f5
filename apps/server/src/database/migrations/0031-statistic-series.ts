import type { Migration } from './migration.ts';

/** How a statistic goes over several months, where a person chose it; otherwise it is proposed from its name and values. */
export const statisticSeries: Migration = {
  name: '0031-statistic-series',
  statements: [
    `CREATE TABLE statistic_series (
      company_id INTEGER NOT NULL REFERENCES companies(id), series TEXT NOT NULL, aggregation TEXT NOT NULL CHECK (aggregation IN ('sum', 'average', 'last')),
      PRIMARY KEY (company_id, series)) WITHOUT ROWID`,
  ],
};
