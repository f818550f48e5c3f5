import type { StatementGrid } from './evaluate.ts';
import type { PlannedColumn } from './planned-column.ts';

/** The columns of a statement that are shown: not hidden, and with a figure where they ask for one. */
export function shownColumns(grid: Pick<StatementGrid, 'plan' | 'cells'>): PlannedColumn[] {
  return grid.plan.columns.filter(
    ({ index, hidden, ifFilled }) => !hidden && (!ifFilled || grid.cells.some((row) => row[index]!.kind !== 'blank')),
  );
}
