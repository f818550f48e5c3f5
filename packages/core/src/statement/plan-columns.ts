import type { FiscalCalendar, PeriodIndex } from '../calendar/fiscal-calendar.ts';
import { spanWords } from '../calendar/period-words.ts';
import { resolveSpan, type ResolvedSpan } from '../calendar/span.ts';
import { bothFilters, NO_FILTER, type DimensionFilter } from '../ledger/dimension.ts';
import type { RatioUnit } from './cell.ts';
import type { BalanceMeasure, Block, Column, ColumnSet, ScenarioRef } from './column-set.ts';
import { linesRead, parseExpression, type Expression, type ExpressionIssue } from './expression.ts';
import type { KnownDimensions } from './plan-lines.ts';
import { standingsOf, type Standing } from './standings.ts';

export type ColumnWork =
  | {
      readonly kind: 'amount';
      readonly scenario: ScenarioRef;
      readonly resolved: ResolvedSpan;
      readonly isPriorYear: boolean;
      readonly isPinned: boolean;
      readonly measure: BalanceMeasure;
      readonly filter: DimensionFilter;
    }
  | { readonly kind: 'difference' | 'percentDifference'; readonly compared: number; readonly base: number; readonly bar: boolean }
  | { readonly kind: 'share'; readonly of: number; readonly baseLine: string | null; readonly ownGroup: boolean }
  | {
      readonly kind: 'formula';
      readonly expression: Expression;
      readonly result: 'amount' | RatioUnit;
      readonly reads: ReadonlyMap<string, number>;
    }
  | { readonly kind: 'runningTotal'; readonly columns: readonly number[] }
  | { readonly kind: 'benchmark' }
  /** a column that could not be laid out; its issue says why */
  | { readonly kind: 'faulty' };
export type PlannedColumn = {
  readonly index: number;
  /** block key, the part for repeated blocks, and the column's key: `months.2026-10.actual` */
  readonly key: string;
  readonly block: number;
  readonly heading: string;
  readonly hidden: boolean;
  readonly ifFilled: boolean;
  readonly width: number | null;
  readonly decimals: number | null;
} & ColumnWork;
export type PlannedBlock = { readonly key: string; readonly heading: string; readonly isTotal: boolean };
export type ColumnIssue = {
  readonly block: string;
  readonly column: string;
  readonly code:
    'unknownColumn' | 'circular' | 'repeatedKey' | 'tooManyColumns' | 'unknownDimension' | 'unknownBudget' | 'outsideCalendar' | 'formula';
  readonly token: string;
  readonly formula?: ExpressionIssue;
};
export type PlannedColumns = {
  readonly blocks: readonly PlannedBlock[];
  readonly columns: readonly PlannedColumn[];
  /** derived columns, each after those it reads */
  readonly order: readonly number[];
  readonly issues: readonly ColumnIssue[];
};

export const MOST_COLUMNS = 240;
type Slot = { readonly block: Block; readonly column: Column; readonly standing: Standing; readonly own: number };

/**
 * Lays a column set out for an as-of month: repeats become blocks, spans become periods, references
 * become positions. All faults are listed; a faulty column is laid out too and shows no figure, and
 * what goes past the most columns is left out and told.
 */
export function planColumns(
  columnSet: ColumnSet,
  options: { readonly calendar: FiscalCalendar; readonly asOf: PeriodIndex; readonly dimensions: KnownDimensions },
): PlannedColumns {
  const { calendar, asOf, dimensions } = options;
  const blocks: PlannedBlock[] = [];
  const slots: Slot[] = [];
  const issues: ColumnIssue[] = [];
  for (const block of columnSet.blocks) {
    const keys = new Set<string>();
    for (const { key } of block.columns) {
      if (keys.has(key)) issues.push({ block: block.key, column: key, code: 'repeatedKey', token: key });
      keys.add(key);
    }
    const result = standingsOf(block, calendar, asOf, dimensions);
    if (!result.ok) {
      issues.push({ block: block.key, column: '', code: result.code, token: result.token });
      continue;
    }
    for (const standing of result.standings) {
      const own = blocks.push({ key: standing.key, heading: standing.heading, isTotal: standing.isTotal }) - 1;
      for (const column of block.columns) slots.push({ block, column, standing, own });
    }
  }
  if (slots.length > MOST_COLUMNS) {
    const { block, column } = slots[MOST_COLUMNS]!;
    issues.push({ block: block.key, column: column.key, code: 'tooManyColumns', token: String(slots.length) });
    slots.length = MOST_COLUMNS;
  }
  const positions = new Map(slots.map(({ standing, column }, index) => [`${standing.key}.${column.key}`, index]));
  const columns = slots.map((slot, index) => planColumn(slot, index));
  return { blocks, columns, order: derivedOrder(), issues };

  function planColumn({ block, column, standing, own }: Slot, index: number): PlannedColumn {
    const spanOf =
      column.kind === 'amount' ? spanOver(calendar, column, standing.anchors) : resolveSpan(calendar, block.span, standing.anchors.at(-1)!);
    const common = {
      index,
      block: own,
      key: `${standing.key}.${column.key}`,
      heading: column.heading.replaceAll('{span}', spanOf.ok ? spanWords(calendar, spanOf.span) : ''),
      hidden: (column.hidden ?? false) || (block.hidden ?? false),
      ifFilled: column.ifFilled ?? false,
      width: column.width ?? null,
      decimals: column.decimals ?? null,
    };
    const missing: string[] = [];
    const locate = (key: string): number => {
      const found = positions.get(`${standing.key}.${key}`) ?? positions.get(key);
      if (found === undefined) missing.push(key);
      return found ?? -1;
    };
    const work = workOf(column, standing, spanOf, locate);
    if (missing.length === 0) return { ...common, ...work };
    for (const token of missing) tell({ block: block.key, column: column.key, code: 'unknownColumn', token });
    return { ...common, kind: 'faulty' };

    function workOf(of: Column, at: Standing, resolved: ResolvedSpan, position: (key: string) => number): ColumnWork {
      switch (of.kind) {
        case 'amount':
          return {
            kind: 'amount',
            scenario: of.scenario,
            resolved,
            isPriorYear: (of.span.shift?.years ?? 0) < 0,
            isPinned: of.span.pinnedTo !== undefined,
            measure: of.measure ?? 'closing',
            filter: bothFilters(at.filter, of.filter ?? NO_FILTER),
          };
        case 'difference':
        case 'percentDifference':
          return {
            kind: of.kind,
            compared: position(of.compared),
            base: position(of.base),
            bar: of.kind === 'difference' && (of.bar ?? false),
          };
        case 'share':
          return { kind: 'share', of: position(of.of), baseLine: of.baseLine ?? null, ownGroup: of.ownGroup ?? false };
        case 'benchmark':
          return { kind: 'benchmark' };
        case 'runningTotal': {
          // in the total block the sum over the stretch is the column itself
          if (at.isTotal) return { kind: 'runningTotal', columns: [position(of.of)] };
          const through = slots.flatMap((slot, other) =>
            slot.block === block && slot.column.key === of.of && !slot.standing.isTotal && slot.own <= own ? [other] : [],
          );
          if (through.length === 0) position(of.of);
          return { kind: 'runningTotal', columns: through };
        }
        case 'formula': {
          const parsed = parseExpression(of.expression);
          if (!parsed.ok) {
            tell({ block: block.key, column: of.key, code: 'formula', token: parsed.issue.token, formula: parsed.issue });
            return { kind: 'faulty' };
          }
          const reads = new Map(linesRead(parsed.expression).map((key) => [key, position(key)]));
          return { kind: 'formula', expression: parsed.expression, result: of.result, reads };
        }
      }
    }
  }

  /** A fault of a repeated column is told once, not for every part. */
  function tell(issue: ColumnIssue): void {
    const known = issues.some(
      (each) => each.block === issue.block && each.column === issue.column && each.code === issue.code && each.token === issue.token,
    );
    if (!known) issues.push(issue);
  }

  function derivedOrder(): number[] {
    const order: number[] = [];
    const state = new Map<number, 'open' | 'done'>();
    const visit = (index: number): void => {
      const column = columns[index]!;
      if (column.kind === 'amount' || state.get(index) === 'done') return;
      state.set(index, 'open');
      for (const read of columnsRead(column)) {
        if (state.get(read) === 'open') {
          const { block, column: own } = slots[index]!;
          tell({ block: block.key, column: own.key, code: 'circular', token: slots[read]!.column.key });
        } else visit(read);
      }
      state.set(index, 'done');
      order.push(index);
    };
    columns.forEach((_, index) => visit(index));
    return order;
  }
}

/** Positions of the columns a derived column is made from; none for amounts. */
export function columnsRead(column: PlannedColumn): readonly number[] {
  switch (column.kind) {
    case 'difference':
    case 'percentDifference':
      return [column.compared, column.base];
    case 'share':
      return [column.of];
    case 'formula':
      return [...column.reads.values()];
    case 'runningTotal':
      return column.columns;
    case 'amount':
    case 'benchmark':
    case 'faulty':
      return [];
  }
}

/** The union of a column's spans over all anchors; refused as soon as one is. */
function spanOver(calendar: FiscalCalendar, column: Column & { kind: 'amount' }, anchors: readonly PeriodIndex[]): ResolvedSpan {
  const all = anchors.map((anchor) => resolveSpan(calendar, column.span, anchor));
  const refused = all.find((each) => !each.ok);
  if (refused) return refused;
  const spans = all.flatMap((each) => (each.ok ? [each.span] : []));
  const from = Math.min(...spans.map((span) => span.from)) as PeriodIndex;
  const to = Math.max(...spans.map((span) => span.to)) as PeriodIndex;
  return { ok: true, span: { from, to } };
}
