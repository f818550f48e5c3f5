import type { BudgetLine } from '@wise-margin/core';

/** How many months of a line are manual overrides, after its basis: `; 2 manual overrides`; empty without any. */
export function overrideWords({ months }: Pick<BudgetLine, 'months'>): string {
  const count = months.filter(({ held }) => held).length;
  if (count === 0) return '';
  return count === 1 ? '; 1 manual override' : `; ${count} manual overrides`;
}
