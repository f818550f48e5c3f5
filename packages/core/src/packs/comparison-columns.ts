import { type Comparison, COMPARISONS, findingColumns } from '../findings/finding-columns.ts';
import type { Block, ColumnSet } from '../statements/column-set.ts';

const HEADINGS: Readonly<Record<Comparison, readonly [compared: string, base: string, difference: string]>> = {
  budget: ['Actual', 'Budget', 'Variance'],
  priorYear: ['Actual', 'Prior year', 'Change'],
  priorMonth: ['Actual', 'Prior month', 'Change'],
  projection: ['Projection', 'Budget', 'Variance'],
};

const named = (comparison: Comparison): ColumnSet => {
  const [compared, base, difference] = HEADINGS[comparison];
  const headings: Readonly<Record<string, string>> = { compared, base, variance: difference, percent: `${difference} %` };
  return {
    key: `comparison-${comparison}`,
    name: `${compared} and ${base.toLowerCase()}`,
    blocks: findingColumns(comparison).blocks.map((block): Block => ({
      ...block,
      heading: block.key === 'yearToDate' && comparison !== 'projection' ? 'Year to date, {span}' : '{span}',
      columns: block.columns.map((column) => ({ ...column, heading: headings[column.key]! })),
    })),
  };
};
const COLUMNS = Object.fromEntries(COMPARISONS.map((comparison) => [comparison, named(comparison)])) as Readonly<
  Record<Comparison, ColumnSet>
>;

/** Month and year to date against one base, with difference and percent, as a section of a pack shows them. */
export const comparisonColumns = (comparison: Comparison): ColumnSet => COLUMNS[comparison];
