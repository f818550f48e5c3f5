import type { Migration } from './migration.ts';

/** A view may take its lines or its columns from another view and follow it; what it had last stays with it. */
export const sharedLines: Migration = {
  name: '0029-shared-lines',
  statements: [`ALTER TABLE views ADD COLUMN lines_of TEXT`, `ALTER TABLE views ADD COLUMN columns_of TEXT`],
};
