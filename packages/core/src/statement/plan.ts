import type { FiscalCalendar, PeriodIndex } from '../calendar/fiscal-calendar.ts';
import { isBalanceAccount, type Chart } from '../chart/account.ts';
import type { ColumnSet } from './column-set.ts';
import type { LineSet } from './line-set.ts';
import { planColumns, type ColumnIssue, type PlannedBlock, type PlannedColumn } from './plan-columns.ts';
import { planLines, type LineIssue, type PlannedLine } from './plan-lines.ts';

/** A line set and a column set laid out over a chart and a calendar for an as-of month; evaluation takes nothing else. */
export type StatementPlan = {
  readonly chart: Chart;
  readonly calendar: FiscalCalendar;
  readonly asOf: PeriodIndex;
  readonly lines: readonly PlannedLine[];
  /** formula lines in order of dependency */
  readonly formulaOrder: readonly number[];
  readonly blocks: readonly PlannedBlock[];
  readonly columns: readonly PlannedColumn[];
  /** index of the line percentages are taken of */
  readonly percentBase: number;
  /** for each account of the chart, whether it stands in the balance sheet */
  readonly isBalance: readonly boolean[];
};
export type StatementIssue = ({ readonly of: 'line' } & LineIssue) | ({ readonly of: 'column' } & ColumnIssue);
export type PlanResult =
  { readonly ok: true; readonly plan: StatementPlan } | { readonly ok: false; readonly issues: readonly StatementIssue[] };

/** Parses a statement once. Every fault of its lines and columns is listed together. */
export function planStatement(options: {
  readonly lineSet: LineSet;
  readonly columnSet: ColumnSet;
  readonly chart: Chart;
  readonly calendar: FiscalCalendar;
  readonly asOf: PeriodIndex;
}): PlanResult {
  const { lineSet, columnSet, chart, calendar, asOf } = options;
  const { lines, order, issues: lineIssues } = planLines(lineSet, chart);
  const { blocks, columns, issues: columnIssues } = planColumns(columnSet, calendar, asOf);
  const indexOf = (key: string) => lines.findIndex((line) => line.key === key);
  const issues: StatementIssue[] = [
    ...lineIssues.map((issue) => ({ of: 'line' as const, ...issue })),
    ...columnIssues.map((issue) => ({ of: 'column' as const, ...issue })),
  ];
  const percentBase = indexOf(lineSet.percentBase);
  if (percentBase < 0) issues.push({ of: 'line', line: lineSet.percentBase, code: 'unknownLine', token: lineSet.percentBase });
  for (const column of columns) {
    if (column.kind === 'share' && column.baseLine !== null && indexOf(column.baseLine) < 0) {
      issues.push({ of: 'line', line: column.baseLine, code: 'unknownLine', token: column.baseLine });
    }
  }
  if (issues.length > 0) return { ok: false, issues };
  return {
    ok: true,
    plan: {
      chart,
      calendar,
      asOf,
      lines,
      formulaOrder: order,
      blocks,
      columns,
      percentBase,
      isBalance: chart.accounts.map(isBalanceAccount),
    },
  };
}
