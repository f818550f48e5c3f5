import {
  columnWords,
  longPeriodName,
  periodAt,
  RATIOS,
  shownOrder,
  type Cell,
  type PlannedColumn,
  type StatementGrid,
  type StatementIssue,
} from '@wise-margin/core';
import { statementIssueWords, type CellDto, type GridDto } from '@wise-margin/contract';

/** A cell as it crosses the wire; the core's cell is that already. */
export const cellDto = (cell: Cell): CellDto => cell as CellDto;
const isNothing = (cell: Cell): boolean => cell.kind === 'blank' || (cell.kind !== 'notMeaningful' && cell.value === 0);
const RATIO_WORDS = new Map(RATIOS.map(({ key, words }) => [key, words]));

/** The evaluated grid for the wire: hidden lines and columns left out, nothing computed. */
export function gridDto(
  grid: StatementGrid,
  told: { readonly budget: string; readonly view: GridDto['view']; readonly issues: readonly StatementIssue[] },
): GridDto {
  const { plan } = grid;
  const lines = shownOrder(grid)
    .map((index) => plan.lines[index]!)
    .filter((line) => !line.hidden);
  const columns = plan.columns.filter((column) => !column.hidden);
  return {
    view: told.view,
    asOf: periodAt(plan.calendar, plan.asOf).key,
    asOfWords: longPeriodName(plan.calendar, plan.asOf),
    budgetWords: told.budget,
    percentBase: plan.lines[plan.percentBase]?.name ?? null,
    filter: Object.fromEntries(Object.entries(grid.filter).map(([dimension, values]) => [dimension, [...values]])),
    issues: told.issues.map(statementIssueWords),
    blocks: plan.blocks.map(({ key, heading, isTotal }) => ({ key, heading, isTotal })),
    columns: columns.map((column) => ({
      key: column.key,
      block: column.block,
      heading: column.heading,
      kind: column.kind,
      scenario: column.kind === 'amount' ? drawnAs(column) : null,
      words: columnWords(grid, column.index),
      bar: column.kind === 'difference' && column.bar,
      isPinned: column.kind === 'amount' && column.isPinned,
      decimals: column.decimals,
    })),
    lines: lines.map((line) => ({
      key: line.key,
      name: line.name,
      kind: line.kind,
      depth: line.depth,
      parent: plan.lines[line.parent]?.key ?? null,
      account: line.kind === 'account' && line.source.kind === 'accounts' ? plan.chart.accounts[line.source.accounts[0]!]!.number : null,
      emphasis: line.emphasis,
      rule: line.rule,
      words: RATIO_WORDS.get(line.key) ?? null,
      isZero: line.source.kind !== 'nothing' && columns.every((column) => isNothing(grid.cells[line.index]![column.index]!)),
    })),
    cells: lines.map((line) => columns.map((column) => cellDto(grid.cells[line.index]![column.index]!))),
  };
}

/** How a column's figures are drawn: a year not ended is hatched, one that ended is a prior year. */
function drawnAs(column: PlannedColumn & { readonly kind: 'amount' }): 'actual' | 'prior' | 'budget' | 'projection' {
  if (column.scenario === 'projection') return 'projection';
  if (column.scenario !== 'actual') return 'budget';
  return column.isPriorYear ? 'prior' : 'actual';
}
