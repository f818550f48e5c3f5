import type { Migration } from './migration.ts';

/** Rules above and below a line are chosen each on its own; saved views had one word for both. */
export const lineRules: Migration = {
  name: '0008-line-rules',
  // a quote within a name is escaped in JSON, so only the property itself is matched
  statements: [
    `UPDATE views SET line_set = replace(replace(line_set,
      '"rule":"single"', '"rule":{"above":"single"}'),
      '"rule":"double"', '"rule":{"above":"single","below":"double"}')`,
  ],
};
