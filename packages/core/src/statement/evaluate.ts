import { bothFilters, type DimensionFilter } from '../ledger/dimension.ts';
import { minor } from '../money/minor.ts';
import { differenceOf, percentDifferenceOf, shareOf } from '../variance/difference.ts';
import { accountValues } from './account-values.ts';
import { amount, blank, type Cell } from './cell.ts';
import { evaluateExpression } from './evaluate-expression.ts';
import type { PlannedColumn } from './plan-columns.ts';
import type { PlannedLine } from './plan-lines.ts';
import type { StatementPlan } from './plan.ts';
import type { ScenarioSources } from './scenario-source.ts';

/** The one grid every screen, export and script reads: `cells[line][column]`, by the plan's indexes. */
export type StatementGrid = {
  readonly plan: StatementPlan;
  readonly filter: DimensionFilter;
  readonly sources: ScenarioSources;
  readonly cells: readonly (readonly Cell[])[];
};

type AmountColumn = PlannedColumn & { readonly kind: 'amount' };

/**
 * Computes a planned statement: first every amount column, lines from the cube and then formulas
 * within the column; then the derived columns, line by line. Amounts are minor units in the line's
 * shown sign.
 * @param filter applies to the whole statement, together with each column's own
 */
export function evaluate(plan: StatementPlan, sources: ScenarioSources, filter: DimensionFilter): StatementGrid {
  const cells: Cell[][] = plan.lines.map(() => new Array<Cell>(plan.columns.length));
  const lineOfKey = new Map(plan.lines.map((line) => [line.key, line.index]));
  for (const column of plan.columns) {
    if (column.kind === 'amount') evaluateAmounts(column);
  }
  for (const column of plan.columns) {
    if (column.kind !== 'amount') for (const line of plan.lines) cells[line.index]![column.index] = derived(column, line);
  }
  return { plan, filter, sources, cells };

  function evaluateAmounts(column: AmountColumn): void {
    const source = sources[column.scenario];
    const joined = bothFilters(filter, column.filter);
    const none = column.resolved.ok ? source.missing(column.resolved.span, joined) : column.resolved.reason;
    const values =
      none === null && column.resolved.ok
        ? accountValues({
            slab: source.slab(joined),
            isBalance: plan.isBalance,
            calendar: plan.calendar,
            span: column.resolved.span,
            measure: column.measure,
          })
        : null;
    for (const line of plan.lines) {
      const row = cells[line.index]!;
      if (line.kind === 'section' || line.kind === 'spacer') row[column.index] = blank('noLine');
      else if (line.kind === 'formula') continue;
      else if (values === null) row[column.index] = blank(none!);
      else if (!source.hasBalances && line.holdsBalances) row[column.index] = blank('noBalanceBudget');
      else {
        let sum = 0;
        for (const index of line.accounts) sum += values[index]!;
        row[column.index] = amount(minor(line.sign * sum));
      }
    }
    for (const index of plan.formulaOrder) {
      const line = plan.lines[index]!;
      const cellOf = (key: string) => cells[lineOfKey.get(key)!]![column.index]!;
      cells[index]![column.index] = none !== null ? blank(none) : evaluateExpression(line.expression!, line.result, cellOf);
    }
  }

  function derived(column: PlannedColumn, line: PlannedLine): Cell {
    if (line.kind === 'section' || line.kind === 'spacer') return blank('noLine');
    const row = cells[line.index]!;
    switch (column.kind) {
      case 'difference':
        return differenceOf(row[column.compared]!, row[column.base]!, line.polarity);
      case 'percentDifference':
        return percentDifferenceOf(row[column.compared]!, row[column.base]!);
      case 'share': {
        const base = column.baseLine === null ? plan.percentBase : lineOfKey.get(column.baseLine)!;
        return shareOf(row[column.of]!, cells[base]![column.of]!);
      }
      case 'amount':
        return row[column.index]!;
    }
  }
}
