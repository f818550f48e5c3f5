import type { Migration } from './migration.ts';

/** Entries are read in order of date, a part at a time. */
export const entriesByDate: Migration = {
  name: '0013-entries-by-date',
  statements: ['CREATE INDEX entries_by_date ON entries (company_id, date)'],
};
