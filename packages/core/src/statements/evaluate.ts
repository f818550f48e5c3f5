import { periodAt } from '../calendar/fiscal-calendar.ts';
import type { Span } from '../calendar/span.ts';
import type { Slab } from '../ledger/balance-cube.ts';
import { bothFilters, type DimensionFilter, filterKey } from '../ledger/dimension.ts';
import { minor } from '../money/minor.ts';
import { differenceOf, percentDifferenceOf, shareOf } from '../variance/difference.ts';
import { accountValues, balanceValue, earningsValue, incomeValue, type SlotSpan, slotSpanOf, yearPartValue } from './account-values.ts';
import { amount, blank, type Cell, notMeaningful } from './cell.ts';
import type { BalanceMeasure } from './column-set.ts';
import { sidesOn } from './comparable-months.ts';
import { evaluateExpression } from './evaluate-expression.ts';
import type { StatisticOver } from './line-set.ts';
import type { AmountColumn, PlannedColumn } from './planned-column.ts';
import type { PlannedLine } from './planned-line.ts';
import type { ScenarioSource, ScenarioSources } from './scenario-source.ts';
import type { StatementPlan } from './statement-plan.ts';
import { STATISTIC, statisticCell, statisticOver } from './statistic-figures.ts';

/** The one grid every screen, export and script reads: `cells[line][column]`, by the plan's indexes. */
export type StatementGrid = {
  readonly plan: StatementPlan;
  readonly filter: DimensionFilter;
  readonly sources: ScenarioSources;
  readonly cells: readonly (readonly Cell[])[];
};

/**
 * Computes a planned statement: first every amount column, lines from the cube and then formulas
 * within the column; then the derived columns, line by line. Amounts are minor units in the line's
 * shown sign. A faulty line or column shows nothing meaningful, and so does what reads it.
 * @param filter applies to the whole statement, together with each column's own and each line's own
 */
export function evaluate(plan: StatementPlan, sources: ScenarioSources, filter: DimensionFilter): StatementGrid {
  const cells: Cell[][] = plan.lines.map(() => new Array<Cell>(plan.columns.length));
  fillCells({ plan, sources, filter }, cells, { lines: plan.lines, derived: plan.lines });
  return { plan, filter, sources, cells };
}

/**
 * Computes lines into a grid whose other lines stand: their amount columns, then their derived ones.
 * @param lines those whose amounts are computed, in the order of the plan
 * @param derived those whose derived columns are; `lines` are among them
 */
export function fillCells(
  { plan, sources, filter }: Omit<StatementGrid, 'cells'>,
  cells: readonly Cell[][],
  { lines, derived }: { readonly lines: readonly PlannedLine[]; readonly derived: readonly PlannedLine[] },
): void {
  for (const column of plan.columns) {
    if (column.kind === 'amount') evaluateAmounts({ plan, column, source: sources(column.scenario), filter, cells, lines });
  }
  for (const index of plan.columnOrder) {
    const column = plan.columns[index]!;
    for (const line of derived) cells[line.index]![index] = derivedCell(plan, cells, { line, column });
  }
}

function evaluateAmounts(options: {
  readonly plan: StatementPlan;
  readonly column: AmountColumn;
  readonly source: ScenarioSource;
  readonly filter: DimensionFilter;
  readonly cells: readonly Cell[][];
  readonly lines: readonly PlannedLine[];
}): void {
  const { plan, column, source, filter, cells, lines } = options;
  const joined = bothFilters(filter, column.filter);
  const whole = figuresUnder(plan, { column, source }, joined);
  const own = new Map<string, ReturnType<typeof figuresUnder>>();
  const under = (line: PlannedLine): ReturnType<typeof figuresUnder> => {
    if (line.filter === plan.noFilter) return whole;
    const key = filterKey(line.filter);
    const figures = own.get(key) ?? figuresUnder(plan, { column, source }, bothFilters(joined, line.filter));
    own.set(key, figures);
    return figures;
  };
  const set = (line: PlannedLine, cell: Cell): void => void (cells[line.index]![column.index] = cell);
  if (column.scenario.startsWith(STATISTIC)) {
    for (const line of lines) set(line, statisticCell(line, column, { source, filter: joined }));
    return;
  }
  for (const line of lines) {
    const { source: from } = line;
    if (from.kind === 'nothing') set(line, blank('noLine'));
    else if (from.kind === 'faulty') set(line, notMeaningful('faultyLine'));
    else if (from.kind === 'statistic') set(line, under(line).statistic(from.series, from.over));
    else if (from.kind === 'expression') continue;
    else {
      const figures = under(line);
      if (figures.missing !== null) set(line, blank(figures.missing));
      else if (line.holdsBalances && !figures.hasBalances(line)) set(line, blank('noBalanceBudget'));
      else if (from.kind === 'earnings' && from.years !== 'current' && plan.incomeKept === 'some') set(line, blank('partOfEarnings'));
      else if (from.kind === 'members') {
        let sum = 0;
        let exact = 0;
        for (const index of from.lines) {
          const cell = cells[index]![column.index]!;
          if (cell.kind !== 'amount') continue;
          sum += plan.lines[index]!.sign * cell.value;
          exact += plan.lines[index]!.sign * (cell.unrounded ?? cell.value);
        }
        set(line, roundedAmount(line.sign * sum, line.sign * exact));
      } else if (isAveraged(line, column))
        set(line, roundedAmount(line.sign * figures.debit(line), line.sign * figures.exactAverage(line)));
      else set(line, amount(minor(line.sign * figures.debit(line))));
    }
  }
  const readers = formulaReaders(plan, column);
  const wanted = lines === plan.lines ? null : new Set(lines.map(({ index }) => index));
  for (const index of plan.formulaOrder) {
    const line = plan.lines[index]!;
    if (line.source.kind !== 'expression' || (wanted !== null && !wanted.has(index))) continue;
    const { expression, result } = line.source;
    const cell =
      whole.missing !== null
        ? blank(whole.missing)
        : evaluateExpression(expression, {
            result,
            exponent: plan.exponent,
            cellOf: (key) => readers(key) ?? cells[plan.lineOfKey.get(key) ?? -1]?.[column.index] ?? notMeaningful('faultyLine'),
          });
    set(line, cell);
  }
}

/** Whether a line's figures are averages of opening and closing balances, which may end on half a minor unit. */
const isAveraged = (line: PlannedLine, column: AmountColumn): boolean =>
  (line.source.kind === 'accounts' || line.source.kind === 'earnings') &&
  line.yearPart === null &&
  (line.measure ?? column.measure) === 'average';

/** An amount rounded account by account, and what it is before that: formulas read the exact one. */
function roundedAmount(value: number, exact: number): Cell {
  return exact === value ? amount(minor(value)) : { kind: 'amount', value: minor(value), unrounded: exact };
}

/** The names formulas may use besides keys: days and months of the column's span. */
function formulaReaders(plan: StatementPlan, column: AmountColumn): (key: string) => Cell | null {
  if (!column.resolved.ok) return () => null;
  const { from, to } = column.resolved.span;
  const quantity = (value: number): Cell => ({ kind: 'quantity', value });
  return (key) => {
    if (key === 'months') return quantity(to - from + 1);
    if (key === 'days') return quantity(daysOf(plan, { from, to }));
    return null;
  };
}

/** Calendar days of a span. */
export function daysOf(plan: Pick<StatementPlan, 'calendar'>, { from, to }: Span): number {
  return (Date.parse(periodAt(plan.calendar, to).end) - Date.parse(periodAt(plan.calendar, from).start)) / 86_400_000 + 1;
}

/** The figures of a column under one filter: of lines that hold accounts, and of statistics. */
function figuresUnder(
  plan: StatementPlan,
  { column, source }: { readonly column: AmountColumn; readonly source: ScenarioSource },
  filter: DimensionFilter,
) {
  const missing = column.resolved.ok ? source.missing(column.resolved.span, filter) : column.resolved.reason;
  const span = missing === null && column.resolved.ok ? slotSpanOf(plan.calendar, column.resolved.span) : null;
  const byMeasure = new Map<Slab, Map<BalanceMeasure, Float64Array>>();
  const valuesOf = (slab: Slab, measure: BalanceMeasure, at: SlotSpan): Float64Array => {
    const held = byMeasure.get(slab) ?? new Map<BalanceMeasure, Float64Array>();
    const values = held.get(measure) ?? accountValues(slab, plan.isBalanceSheet, { span: at, measure });
    byMeasure.set(slab, held.set(measure, values));
    return values;
  };
  // one look-up of each for all lines
  const slabs = new Map<boolean, Slab>();
  const slabOf = (line: PlannedLine): Slab => {
    const known = slabs.get(line.holdsBalances);
    if (known) return known;
    const slab = column.resolved.ok ? slabFor(source, line, { span: column.resolved.span, filter }) : source.slab(filter);
    slabs.set(line.holdsBalances, slab);
    return slab;
  };
  return {
    missing,
    /** whether a line of balance-sheet accounts has figures; only where nothing is missing */
    hasBalances({ source: from }: PlannedLine): boolean {
      if (!column.resolved.ok) return false;
      const asked = from.kind === 'slice' ? bothFilters(filter, { [from.dimension]: [from.value] }) : filter;
      return source.hasBalances(column.resolved.span, asked);
    },
    /** debit positive; only where nothing is missing */
    debit(line: PlannedLine): number {
      const { source: from } = line;
      const measure = line.measure ?? column.measure;
      if (from.kind === 'accounts' && line.yearPart !== null) {
        const asked = { span: span!, measure, part: line.yearPart };
        return from.accounts.reduce((sum, account) => sum + yearPartValue(slabOf(line), account, asked), 0);
      }
      if (from.kind === 'accounts') {
        const values = valuesOf(slabOf(line), measure, span!);
        let sum = 0;
        for (const index of from.accounts) sum += values[index]!;
        return sum;
      }
      if (from.kind === 'slice') {
        const { positions, income, balance } = source.slices(filter, from.accounts, from.dimension);
        const row = positions.get(from.value);
        const measured = { span: span!, measure };
        return row === undefined ? 0 : incomeValue(income, row, measured) + balanceValue(balance, row, measured);
      }
      if (from.kind === 'earnings')
        // without any income account among them, what closing entries moved is not of the statement either
        return plan.incomeKept === 'none'
          ? 0
          : earningsValue({ slab: slabOf(line), income: plan.income, years: from.years, span: span!, measure });
      throw new TypeError(`line ${line.key} holds no accounts`);
    },
    /** the average of balances before it is rounded, in halves of a minor unit; debit positive */
    exactAverage(line: PlannedLine): number {
      const slab = slabOf(line);
      if (line.source.kind === 'earnings') {
        const asked = { slab, income: plan.income, years: line.source.years, span: span! };
        return (earningsValue({ ...asked, measure: 'opening' }) + earningsValue({ ...asked, measure: 'closing' })) / 2;
      }
      if (line.source.kind !== 'accounts') throw new TypeError(`line ${line.key} holds no accounts`);
      const [opening, closing] = [valuesOf(slab, 'opening', span!), valuesOf(slab, 'closing', span!)];
      const changes = valuesOf(slab, 'average', span!);
      return line.source.accounts.reduce(
        (sum, index) => sum + (plan.isBalanceSheet[index] ? (opening[index]! + closing[index]!) / 2 : changes[index]!),
        0,
      );
    },
    statistic: (series: string, over: StatisticOver): Cell => statisticOver(source, { series, over, filter, resolved: column.resolved }),
  };
}

/** Where a line's figures lie: a line with balances reads them, and the result that stands beside them, from one place. */
export const slabFor = (
  source: ScenarioSource,
  { holdsBalances }: PlannedLine,
  { span, filter }: { readonly span: Span; readonly filter: DimensionFilter },
): Slab => (holdsBalances ? source.balanceSlab(span, filter) : source.slab(filter));

function derivedCell(
  plan: StatementPlan,
  cells: readonly (readonly Cell[])[],
  { line, column }: { readonly line: PlannedLine; readonly column: PlannedColumn },
): Cell {
  if (line.source.kind === 'nothing') return blank('noLine');
  const row = cells[line.index]!;
  const at = (index: number): Cell => row[index] ?? notMeaningful('faultyColumn');
  switch (column.kind) {
    case 'faulty':
      return notMeaningful('faultyColumn');
    case 'benchmark':
      return benchmarkCell(line);
    case 'difference':
    case 'percentDifference': {
      const sides = sidesOn(column, plan.pointsInTime[line.index]!, plan.columns);
      if (sides === null) return blank('noCommonMonths');
      const [compared, base] = [at(sides.compared), at(sides.base)];
      return column.kind === 'difference' ? differenceOf(compared, base, line.polarity) : percentDifferenceOf(compared, base);
    }
    case 'share': {
      const base = shareBase(plan, line, column);
      return base < 0 ? blank('noLine') : shareOf(at(column.of), cells[base]![column.baseColumn] ?? notMeaningful('faultyColumn'));
    }
    case 'runningTotal':
      return runningTotal(column.columns.map(at));
    case 'formula':
      return line.source.kind === 'expression' && line.source.result !== 'amount'
        ? blank('ratioLine')
        : evaluateExpression(column.expression, {
            result: column.result,
            exponent: plan.exponent,
            cellOf: (key) => at(column.reads.get(key)!),
          });
    case 'amount':
      return at(column.index);
  }
}

/** A ratio line's benchmark in its unit, any other line's as a share. */
function benchmarkCell({ benchmark, source }: PlannedLine): Cell {
  if (benchmark === null) return blank('noBenchmark');
  const unit = source.kind === 'expression' && source.result !== 'amount' ? source.result : 'percent';
  return { kind: 'ratio', value: benchmark.value, unit };
}

/** Index of the line a share is taken of; -1 where a line stands in no section with a total. */
export function shareBase(plan: StatementPlan, line: PlannedLine, column: PlannedColumn & { readonly kind: 'share' }): number {
  if (column.ownLine) return line.index;
  if (line.percentOf >= 0) return line.percentOf;
  if (column.ownGroup) return line.ownGroup;
  return column.baseLine === null ? plan.percentBase : (plan.lineOfKey.get(column.baseLine) ?? -1);
}

/** The sum so far; blank where the last of them is not posted yet, so that it never stands for fewer months than it says. */
function runningTotal(cells: readonly Cell[]): Cell {
  const last = cells.at(-1);
  if (last?.kind === 'blank' && last.reason === 'notYetPosted') return last;
  return cells.reduce((sum, each) => addCells(sum, each), blank('fromBlank'));
}

/** Amounts and quantities add up; a blank counts as nothing beside a figure; ratios do not add. */
function addCells(sum: Cell, next: Cell): Cell {
  if (sum.kind === 'notMeaningful' || next.kind === 'blank') return sum;
  if (next.kind === 'notMeaningful') return notMeaningful('fromNotMeaningful');
  if (next.kind === 'ratio') return blank('ratioLine');
  if (next.kind === 'quantity') return { kind: 'quantity', value: next.value + (sum.kind === 'quantity' ? sum.value : 0) };
  return amount(minor(next.value + (sum.kind === 'amount' ? sum.value : 0)));
}
