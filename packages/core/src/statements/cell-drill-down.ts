import { periodAt, type PeriodIndex, periodOfYear } from '../calendar/fiscal-calendar.ts';
import type { Span } from '../calendar/span.ts';
import { bothFilters, type DimensionFilter } from '../ledger/dimension.ts';
import { type Minor, minor } from '../money/minor.ts';
import { balanceValue, incomeValue, slotSpanOf } from './account-values.ts';
import type { BalanceMeasure, ScenarioRef } from './column-set.ts';
import { sidesOn } from './comparable-months.ts';
import { shareBase, slabFor, type StatementGrid } from './evaluate.ts';
import { linesRead } from './expression.ts';
import type { YearPart } from './line-set.ts';
import type { AmountColumn } from './planned-column.ts';
import type { PlannedLine } from './planned-line.ts';
import type { StatementPlan } from './statement-plan.ts';
import { STATISTIC } from './statistic-figures.ts';

/** A place in the grid that another figure was made from. */
export type CellPart = {
  readonly line: number;
  readonly column: number;
  readonly role: 'compared' | 'base' | 'part' | 'operand' | 'added';
};
export type PartAccount = { readonly account: number; readonly amount: Minor; readonly measure: BalanceMeasure };

/** What made a cell. Account amounts are in the line's shown sign and add up to the cell. */
export type CellDrillDown =
  | {
      readonly kind: 'accounts';
      readonly scenario: ScenarioRef;
      readonly span: Span;
      readonly filter: DimensionFilter;
      readonly accounts: readonly PartAccount[];
      /** what of the accounts' balances is shown, and the line's shown sign */
      readonly measure: BalanceMeasure;
      readonly sign: 1 | -1;
      /** what the accounts add up to: the cell */
      readonly sum: Minor;
    }
  | {
      readonly kind: 'cells';
      readonly operation: 'formula' | 'difference' | 'percentDifference' | 'share' | 'sum';
      readonly parts: readonly CellPart[];
    }
  | { readonly kind: 'statistic'; readonly series: string; readonly span: Span; readonly filter: DimensionFilter }
  | { readonly kind: 'none' };

/** Where the figure at a line and column comes from: accounts of the cube, or other cells of the grid. */
export function cellDrillDown(grid: StatementGrid, lineIndex: number, columnIndex: number): CellDrillDown {
  const { plan } = grid;
  const line = plan.lines[lineIndex];
  const column = plan.columns[columnIndex];
  if (!line || !column || line.source.kind === 'nothing' || line.source.kind === 'faulty') return { kind: 'none' };
  const at = (part: number, role: CellPart['role'], of = lineIndex): CellPart => ({ line: of, column: part, role });
  switch (column.kind) {
    case 'faulty':
    case 'benchmark':
      return { kind: 'none' };
    case 'difference':
    case 'percentDifference':
      return differenceDrillDown(column);
    case 'share': {
      const base = shareBase(plan, line, column);
      return base < 0
        ? { kind: 'none' }
        : { kind: 'cells', operation: 'share', parts: [at(column.of, 'part'), at(column.baseColumn, 'base', base)] };
    }
    case 'formula':
      return { kind: 'cells', operation: 'formula', parts: [...column.reads.values()].map((read) => at(read, 'operand')) };
    case 'runningTotal':
      return { kind: 'cells', operation: 'sum', parts: column.columns.map((each) => at(each, 'added')) };
    case 'amount':
      return amountDrillDown(grid, line, column);
  }

  function differenceDrillDown(difference: typeof column & { readonly kind: 'difference' | 'percentDifference' }): CellDrillDown {
    const sides = sidesOn(difference, plan.pointsInTime[lineIndex]!, plan.columns);
    if (sides === null) return { kind: 'none' };
    return { kind: 'cells', operation: difference.kind, parts: [at(sides.compared, 'compared'), at(sides.base, 'base')] };
  }
}

function amountDrillDown(grid: StatementGrid, line: PlannedLine, column: AmountColumn): CellDrillDown {
  const { plan } = grid;
  const { source } = line;
  if (source.kind === 'expression') {
    const parts = linesRead(source.expression).flatMap((key): CellPart[] => {
      const read = plan.lineOfKey.get(key);
      return read === undefined ? [] : [{ line: read, column: column.index, role: 'operand' }];
    });
    return { kind: 'cells', operation: 'formula', parts };
  }
  if (!column.resolved.ok || grid.cells[line.index]![column.index]!.kind === 'blank') return { kind: 'none' };
  const { span } = column.resolved;
  if (column.scenario.startsWith(STATISTIC)) {
    const own = bothFilters(bothFilters(grid.filter, column.filter), line.filter);
    const filter = source.kind === 'slice' ? bothFilters(own, { [source.dimension]: [source.value] }) : own;
    return { kind: 'statistic', series: column.scenario.slice(STATISTIC.length), span, filter };
  }
  const filter = bothFilters(bothFilters(grid.filter, column.filter), line.filter);
  if (source.kind === 'statistic') return { kind: 'statistic', series: source.series, span, filter };
  if (source.kind === 'members') {
    const members = source.lines.map((index) => plan.lines[index]!);
    // lines that take accounts as the column has them are listed by account
    const plain = members.every(
      (member) => member.source.kind === 'accounts' && member.filter === plan.noFilter && member.measure === null,
    );
    if (!plain)
      return {
        kind: 'cells',
        operation: 'sum',
        parts: source.lines.map((index) => ({ line: index, column: column.index, role: 'added' })),
      };
    return accountsOf(members.flatMap(accountsHeld), { measure: line.measure ?? column.measure });
  }
  if (source.kind === 'slice')
    return accountsOf(source.accounts, {
      measure: line.measure ?? column.measure,
      under: bothFilters(filter, { [source.dimension]: [source.value] }),
    });
  if (source.kind === 'earnings') {
    if (source.years !== 'current') return { kind: 'none' };
    const from = yearStart(plan, span.to);
    const measure = line.measure ?? column.measure;
    return measure === 'closing' ? accountsOf(plan.income, { measure: 'change', over: { from, to: span.to } }) : { kind: 'none' };
  }
  if (line.yearPart !== null) return yearPartDrillDown(line.yearPart);
  return accountsOf(accountsHeld(line), { measure: line.measure ?? column.measure });

  /** A balance closed at year end: its movement since the start of the year, or its balance before it. */
  function yearPartDrillDown(part: YearPart): CellDrillDown {
    if ((line.measure ?? column.measure) !== 'closing') return { kind: 'none' };
    const first = yearStart(plan, span.to);
    if (part === 'current') return accountsOf(accountsHeld(line), { measure: 'change', over: { from: first, to: span.to } });
    return first === 0
      ? { kind: 'none' }
      : accountsOf(accountsHeld(line), { measure: 'closing', over: { from: (first - 1) as PeriodIndex, to: (first - 1) as PeriodIndex } });
  }

  function accountsOf(
    positions: readonly number[],
    { measure, under = filter, over = span }: { readonly measure: BalanceMeasure; readonly under?: DimensionFilter; readonly over?: Span },
  ): CellDrillDown {
    const slab = slabFor(grid.sources(column.scenario), line, { span, filter: under });
    const slots = slotSpanOf(plan.calendar, over);
    const accounts = positions.map((account): PartAccount => {
      const isBalanceSheet = plan.isBalanceSheet[account]!;
      const value = (isBalanceSheet ? balanceValue : incomeValue)(slab, account, { span: slots, measure });
      return { account, amount: minor(line.sign * value), measure: isBalanceSheet ? measure : 'change' };
    });
    const sum = minor(accounts.reduce((total, { amount }) => total + amount, 0));
    return { kind: 'accounts', scenario: column.scenario, span: over, filter: under, accounts, measure, sign: line.sign, sum };
  }
}

const yearStart = ({ calendar }: StatementPlan, period: PeriodIndex): PeriodIndex =>
  periodOfYear(calendar, periodAt(calendar, period).year, 1)!;

const accountsHeld = ({ source }: PlannedLine): readonly number[] =>
  source.kind === 'accounts' || source.kind === 'slice' ? source.accounts : [];
