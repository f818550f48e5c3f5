import { spanWords } from '../calendar/period-words.ts';
import type { Span } from '../calendar/span.ts';
import { bothFilters, type DimensionFilter } from '../ledger/dimension.ts';
import { minor, type Minor } from '../money/minor.ts';
import { accountValues } from './account-values.ts';
import type { BalanceMeasure, ScenarioRef } from './column-set.ts';
import type { StatementGrid } from './evaluate.ts';
import { linesRead } from './expression.ts';

/** A place in the grid that another figure was made from. */
export type CellPart = { readonly line: number; readonly column: number; readonly role: 'compared' | 'base' | 'part' | 'operand' };

/** What made a cell. Account amounts are in the line's shown sign and add up to the cell. */
export type Provenance =
  | {
      readonly kind: 'accounts';
      readonly scenario: ScenarioRef;
      readonly span: Span;
      readonly filter: DimensionFilter;
      readonly accounts: readonly { readonly account: number; readonly amount: Minor; readonly measure: BalanceMeasure }[];
      /** what the accounts add up to: the cell */
      readonly sum: Minor;
    }
  | {
      readonly kind: 'cells';
      readonly operation: 'formula' | 'difference' | 'percentDifference' | 'share';
      readonly parts: readonly CellPart[];
    }
  | { readonly kind: 'none' };

/** Where the figure at a line and column comes from: accounts of the cube, or other cells of the grid. */
export function provenanceOf(grid: StatementGrid, lineIndex: number, columnIndex: number): Provenance {
  const { plan } = grid;
  const line = plan.lines[lineIndex];
  const column = plan.columns[columnIndex];
  if (!line || !column || line.kind === 'section' || line.kind === 'spacer') return { kind: 'none' };
  const at = (part: number, role: CellPart['role'], of = lineIndex): CellPart => ({ line: of, column: part, role });
  switch (column.kind) {
    case 'difference':
    case 'percentDifference':
      return { kind: 'cells', operation: column.kind, parts: [at(column.compared, 'compared'), at(column.base, 'base')] };
    case 'share': {
      const base = column.baseLine === null ? plan.percentBase : plan.lines.findIndex((each) => each.key === column.baseLine);
      return { kind: 'cells', operation: 'share', parts: [at(column.of, 'part'), at(column.of, 'base', base)] };
    }
    case 'amount': {
      if (line.expression) {
        const parts = linesRead(line.expression).map((key) =>
          at(
            columnIndex,
            'operand',
            plan.lines.findIndex((each) => each.key === key),
          ),
        );
        return { kind: 'cells', operation: 'formula', parts };
      }
      if (!column.resolved.ok || grid.cells[lineIndex]![columnIndex]!.kind === 'blank') return { kind: 'none' };
      const { span } = column.resolved;
      const filter = bothFilters(grid.filter, column.filter);
      const slab = grid.sources[column.scenario].slab(filter);
      const values = accountValues({ slab, isBalance: plan.isBalance, calendar: plan.calendar, span, measure: column.measure });
      const accounts = line.accounts.map((account) => {
        const measure = plan.isBalance[account] ? column.measure : ('change' as const);
        return { account, amount: minor(line.sign * values[account]!), measure };
      });
      return {
        kind: 'accounts',
        scenario: column.scenario,
        span,
        filter,
        accounts,
        sum: minor(accounts.reduce((total, { amount }) => total + amount, 0)),
      };
    }
  }
}

/** A figure in words: `Actual, Apr to Oct 2026, department Tours`. */
export function columnWords(grid: StatementGrid, columnIndex: number): string {
  const column = grid.plan.columns[columnIndex]!;
  const of = (index: number): string => columnWords(grid, index);
  switch (column.kind) {
    case 'amount': {
      const span = column.resolved.ok ? spanWords(grid.plan.calendar, column.resolved.span) : 'no such months in the calendar';
      const filters = Object.entries(bothFilters(grid.filter, column.filter)).map(
        ([dimension, values]) => `${dimension} ${values.map((value) => value || 'none').join(' or ')}`,
      );
      return [grid.sources[column.scenario].name, span, ...filters].join(', ');
    }
    case 'difference':
      return `${of(column.compared)}, less ${of(column.base)}`;
    case 'percentDifference':
      return `Difference of ${of(column.compared)} in percent of ${of(column.base)}`;
    case 'share': {
      const base =
        column.baseLine === null ? grid.plan.lines[grid.plan.percentBase]! : grid.plan.lines.find((line) => line.key === column.baseLine)!;
      return `Percent of ${base.name.toLowerCase()}: ${of(column.of)}`;
    }
  }
}
