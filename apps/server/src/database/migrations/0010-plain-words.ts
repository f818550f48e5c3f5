import type { Migration } from './migration.ts';

/** Formula names that were renamed, in everything a saved view or a benchmark holds them in. */
const RENAMED = [
  ['operating_result', 'operating_income'],
  ['result_before_tax', 'income_before_taxes'],
] as const;
const inColumn = (column: string): string => RENAMED.reduce((text, [before, after]) => `replace(${text}, '${before}', '${after}')`, column);

/** Properties of bases that were renamed; a quote within a text is escaped in JSON, so only the property itself is matched. */
const PROPERTIES = [
  ['withOneOffs', 'includeNonrecurring'],
  ['besides', 'currentStaff'],
  ['everywhere', 'wholeCompany'],
] as const;
const inBasis = (column: string): string =>
  PROPERTIES.reduce((text, [before, after]) => `replace(${text}, '"${before}":', '"${after}":')`, column);

/** Budgets in progress are drafts, views are kept in folders, what does not recur is called nonrecurring, and lines have the formula names of the trade. */
export const plainWords: Migration = {
  name: '0010-plain-words',
  statements: [
    `UPDATE budgets SET state = 'draft' WHERE state = 'working'`,
    `ALTER TABLE views RENAME COLUMN shelf TO folder`,
    `UPDATE views SET line_set = ${inColumn('line_set')}, column_set = ${inColumn('column_set')}`,
    `ALTER TABLE one_offs RENAME TO nonrecurring_items`,
    `ALTER TABLE budget_changes RENAME COLUMN taken_back TO undone`,
    `UPDATE budget_lines SET basis = ${inBasis('basis')}`,
    `UPDATE budget_changes SET lines = ${inBasis('lines')}`,
    `UPDATE benchmarks SET line_key = ${inColumn('line_key')}`,
  ],
};
