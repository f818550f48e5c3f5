import { columnWords, longPeriodName, periodAt, type Cell, type PlannedColumn, type StatementGrid } from '@wise-margin/core';
import type { CellDto, GridDto } from '@wise-margin/contract';

/** A cell as it crosses the wire; the core's cell is that already. */
export const cellDto = (cell: Cell): CellDto => cell as CellDto;
const isNothing = (cell: Cell): boolean => cell.kind === 'blank' || (cell.kind !== 'notMeaningful' && cell.value === 0);

/** The evaluated grid for the wire: hidden lines and columns left out, nothing computed. */
export function gridDto(grid: StatementGrid, words: { readonly budget: string }): GridDto {
  const { plan } = grid;
  const lines = plan.lines.filter((line) => !line.hidden);
  const columns = plan.columns.filter((column) => !column.hidden);
  return {
    asOf: periodAt(plan.calendar, plan.asOf).key,
    asOfWords: longPeriodName(plan.calendar, plan.asOf),
    budgetWords: words.budget,
    percentBase: plan.lines[plan.percentBase]!.name,
    filter: Object.fromEntries(Object.entries(grid.filter).map(([dimension, values]) => [dimension, [...values]])),
    blocks: plan.blocks.map(({ key, heading }) => ({ key, heading })),
    columns: columns.map((column) => ({
      key: column.key,
      block: column.block,
      heading: column.heading,
      kind: column.kind,
      scenario: column.kind === 'amount' ? drawnAs(column) : null,
      words: columnWords(grid, column.index),
      bar: column.kind === 'difference' && column.bar,
    })),
    lines: lines.map((line) => ({
      key: line.key,
      name: line.name,
      kind: line.kind,
      depth: line.depth,
      parent: plan.lines[line.parent]?.key ?? null,
      account: line.kind === 'account' ? plan.chart.accounts[line.accounts[0]!]!.number : null,
      emphasis: line.emphasis,
      rule: line.rule,
      isZero:
        line.kind !== 'section' && line.kind !== 'spacer' && columns.every((column) => isNothing(grid.cells[line.index]![column.index]!)),
    })),
    cells: lines.map((line) => columns.map((column) => cellDto(grid.cells[line.index]![column.index]!))),
  };
}

/** How a column's figures are drawn: a year not ended is hatched, one that ended is a prior year. */
function drawnAs(column: PlannedColumn & { readonly kind: 'amount' }): 'actual' | 'prior' | 'budget' | 'projection' {
  if (column.scenario !== 'actual') return column.scenario;
  return column.isPriorYear ? 'prior' : 'actual';
}
