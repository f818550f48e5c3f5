import type { Migration } from './migration.ts';

/** The last actual month that a person chose, and the one that was proposed then, as periods. */
export const lastActualMonth: Migration = {
  name: '0030-last-actual-month',
  statements: [`ALTER TABLE companies ADD COLUMN last_actual INTEGER`, `ALTER TABLE companies ADD COLUMN last_actual_instead_of INTEGER`],
};
