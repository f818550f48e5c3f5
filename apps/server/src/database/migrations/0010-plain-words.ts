import type { Migration } from './migration.ts';

/** Formula names that were renamed, in everything a saved view or a benchmark holds them in. */
const RENAMED = [
  ['operating_result', 'operating_income'],
  ['result_before_tax', 'income_before_taxes'],
] as const;
const inColumn = (column: string): string => RENAMED.reduce((text, [before, after]) => `replace(${text}, '${before}', '${after}')`, column);

/** Budgets in progress are drafts, views are kept in folders, what does not recur is called nonrecurring, and lines have the formula names of the trade. */
export const plainWords: Migration = {
  name: '0010-plain-words',
  statements: [
    `UPDATE budgets SET state = 'draft' WHERE state = 'working'`,
    `ALTER TABLE views RENAME COLUMN shelf TO folder`,
    `UPDATE views SET line_set = ${inColumn('line_set')}, column_set = ${inColumn('column_set')}`,
    `ALTER TABLE one_offs RENAME TO nonrecurring_items`,
    `ALTER TABLE budget_changes RENAME COLUMN taken_back TO undone`,
    `UPDATE budget_lines SET basis = replace(basis, '"withOneOffs":', '"includeNonrecurring":')`,
    `UPDATE budget_changes SET lines = replace(lines, '"withOneOffs":', '"includeNonrecurring":')`,
    `UPDATE benchmarks SET line_key = ${inColumn('line_key')}`,
  ],
};
