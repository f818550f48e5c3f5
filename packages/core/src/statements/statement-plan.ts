import type { FiscalCalendar, PeriodIndex } from '../calendar/fiscal-calendar.ts';
import { type Chart, incomePositions, isBalanceAccount } from '../chart/account.ts';
import { type DimensionFilter, NO_FILTER } from '../ledger/dimension.ts';
import { type Benchmarks, NO_BENCHMARKS } from './benchmark.ts';
import type { ColumnSet } from './column-set.ts';
import type { PostedMonths } from './comparable-months.ts';
import type { LineIssue } from './line-issue.ts';
import type { LineSet } from './line-set.ts';
import { type ColumnIssue, planColumns } from './plan-columns.ts';
import { type KnownDimensions, planLines } from './plan-lines.ts';
import type { PlannedBlock, PlannedColumn } from './planned-column.ts';
import type { PlannedLine } from './planned-line.ts';
import { type PointInTime, pointsInTime } from './point-in-time.ts';

/** A line set and a column set laid out over a chart and a calendar for an as-of month; evaluation takes nothing else. */
export type StatementPlan = {
  readonly chart: Chart;
  readonly calendar: FiscalCalendar;
  readonly asOf: PeriodIndex;
  readonly lines: readonly PlannedLine[];
  readonly lineOfKey: ReadonlyMap<string, number>;
  /** formula lines in order of dependency */
  readonly formulaOrder: readonly number[];
  readonly blocks: readonly PlannedBlock[];
  readonly columns: readonly PlannedColumn[];
  /** derived columns in order of dependency */
  readonly columnOrder: readonly number[];
  /** index of the line percentages are taken of; -1 when there is no such line */
  readonly percentBase: number;
  /** for each account of the chart, whether it stands in the balance sheet */
  readonly isBalanceSheet: readonly boolean[];
  /** for each line, whether it shows balances at a moment */
  readonly pointsInTime: readonly PointInTime[];
  /** the months actuals cover; null where every month counts as covered */
  readonly posted: PostedMonths;
  /** the last month of actuals, not after the as-of month; null where every month counts as actual */
  readonly through: PeriodIndex | null;
  /** decimals of the currency */
  readonly exponent: number;
  /** chart positions of the income accounts the statement keeps to, and whether that is all of them */
  readonly income: readonly number[];
  readonly incomeKept: 'all' | 'some' | 'none';
  /** the filter of lines without one of their own */
  readonly noFilter: DimensionFilter;
};
export type StatementIssue = ({ readonly of: 'line' } & LineIssue) | ({ readonly of: 'column' } & ColumnIssue);
/** `plan` is there in any case: what is faulty shows no figure and the rest of the statement still does. */
export type PlanResult = { readonly plan: StatementPlan; readonly issues: readonly StatementIssue[] };

/** Parses a statement once. Every fault of its lines and columns is listed together. */
export function planStatement(options: {
  readonly lineSet: LineSet;
  readonly columnSet: ColumnSet;
  readonly chart: Chart;
  readonly calendar: FiscalCalendar;
  readonly asOf: PeriodIndex;
  readonly dimensions?: KnownDimensions;
  /** decimals of the currency, by default two */
  readonly exponent?: number;
  /** chart positions of the accounts to keep to; null or absent keeps all */
  readonly onlyAccounts?: ReadonlySet<number> | null;
  readonly benchmarks?: Benchmarks;
  /** the months actuals cover, so that comparisons are made over equal months; null or absent takes all */
  readonly posted?: PostedMonths;
  /** the last month of actuals, not after the as-of month, `NO_ACTUALS` before the first; null or absent takes the as-of month */
  readonly through?: PeriodIndex | null;
  /** the statement's filter, which repeats over its dimensions follow */
  readonly filter?: DimensionFilter;
}): PlanResult {
  const {
    lineSet,
    columnSet,
    chart,
    calendar,
    asOf,
    dimensions = new Map(),
    exponent = 2,
    onlyAccounts = null,
    benchmarks = NO_BENCHMARKS,
    posted = null,
    through = null,
    filter = NO_FILTER,
  } = options;
  const { lines, order, issues: lineIssues } = planLines(lineSet, { chart, dimensions, onlyAccounts, benchmarks });
  const atMoments = pointsInTime(chart, lines);
  const hasFlows = atMoments.includes('never');
  const {
    blocks,
    columns,
    order: columnOrder,
    issues: columnIssues,
  } = planColumns(columnSet, { calendar, asOf, dimensions, posted, through, hasFlows, filter });
  const allIncome = incomePositions(chart);
  const income = allIncome.filter((index) => onlyAccounts?.has(index) ?? true);
  const lineOfKey = new Map(lines.map((line) => [line.key, line.index]));
  const issues: StatementIssue[] = [
    ...lineIssues.map((issue) => ({ of: 'line' as const, ...issue })),
    ...columnIssues.map((issue) => ({ of: 'column' as const, ...issue })),
  ];
  const base = lineSet.percentBase;
  const bases = [
    ...(base === undefined ? [] : [base]),
    ...columns.flatMap((column) => (column.kind === 'share' ? (column.baseLine ?? []) : [])),
  ];
  for (const key of new Set(bases)) {
    if (!lineOfKey.has(key)) issues.push({ of: 'line', line: key, code: 'unknownLine', token: key });
  }
  return {
    issues,
    plan: {
      chart,
      calendar,
      asOf,
      lines,
      lineOfKey,
      formulaOrder: order,
      blocks,
      columns,
      columnOrder,
      percentBase: base === undefined ? -1 : (lineOfKey.get(base) ?? -1),
      isBalanceSheet: chart.accounts.map(isBalanceAccount),
      pointsInTime: atMoments,
      posted,
      through,
      exponent,
      income,
      incomeKept: income.length === allIncome.length ? 'all' : income.length > 0 ? 'some' : 'none',
      noFilter: NO_FILTER,
    },
  };
}
