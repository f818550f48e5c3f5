import type { Migration } from './migration.ts';

/** What a person chose for an import, and the seal of what its check staged. */
export const importChoices: Migration = {
  name: '0007-import-choices',
  statements: [`ALTER TABLE imports ADD COLUMN choices TEXT NOT NULL DEFAULT '{}'`, `ALTER TABLE imports ADD COLUMN seal TEXT`],
};
