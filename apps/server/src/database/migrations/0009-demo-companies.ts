import type { Migration } from './migration.ts';

/** Which companies are demo companies, so that they can be removed together. */
export const demoCompanies: Migration = {
  name: '0009-demo-companies',
  statements: [`ALTER TABLE companies ADD COLUMN is_demo INTEGER NOT NULL DEFAULT 0`],
};
