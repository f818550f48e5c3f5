import { type FiscalCalendar, type PeriodIndex, PERIODS_PER_YEAR } from '../calendar/fiscal-calendar.ts';
import { endDateWords, spanWords } from '../calendar/period-words.ts';
import { type ResolvedSpan, resolveSpan, type SpanDefinition } from '../calendar/span.ts';
import { bothFilters, type DimensionFilter, NO_FILTER } from '../ledger/dimension.ts';
import { type BlockInstance, blockInstances } from './block-instances.ts';
import type { Block, Column, ColumnSet } from './column-set.ts';
import { compareEqualMonths, type PostedMonths } from './comparable-months.ts';
import { type ExpressionIssue, linesRead, parseExpression } from './expression.ts';
import type { KnownDimensions } from './plan-lines.ts';
import { columnsRead, type ColumnWork, type PlannedBlock, type PlannedColumn } from './planned-column.ts';

export type ColumnIssue = {
  readonly block: string;
  readonly column: string;
  readonly code:
    | 'unknownColumn'
    /** its columns are not chosen, or its formula is not written yet */
    | 'unfinished'
    | 'oldestLeftOut'
    | 'totalOverGaps'
    | 'noCommonMonths'
    | 'circular'
    | 'repeatedKey'
    | 'tooManyColumns'
    | 'unknownDimension'
    | 'unknownBudget'
    | 'outsideCalendar'
    | 'formula';
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
type Slot = { readonly block: Block; readonly column: Column; readonly standing: BlockInstance; readonly own: number };

/**
 * Lays a column set out for an as-of month: repeats become blocks, spans become periods, references
 * become positions. All faults are listed; a faulty column is laid out too and shows no figure, and
 * what goes past the most columns is left out, with an issue.
 */
export function planColumns(
  columnSet: ColumnSet,
  options: {
    readonly calendar: FiscalCalendar;
    readonly asOf: PeriodIndex;
    readonly dimensions: KnownDimensions;
    /** the months actuals cover; null takes every month as covered */
    readonly posted?: PostedMonths;
    /** the last month of actuals, not after the as-of month; null or absent takes the as-of month */
    readonly through?: PeriodIndex | null;
    /** whether the statement has lines that add up over months */
    readonly hasFlows?: boolean;
    /** the statement's filter */
    readonly filter?: DimensionFilter;
  },
): PlannedColumns {
  const { calendar, asOf, dimensions, posted = null, through = null, hasFlows = true, filter = NO_FILTER } = options;
  const blocks: PlannedBlock[] = [];
  const slots: Slot[] = [];
  const issues: ColumnIssue[] = [];
  for (const block of columnSet.blocks) {
    const keys = new Set<string>();
    for (const { key } of block.columns) {
      if (keys.has(key)) issues.push({ block: block.key, column: key, code: 'repeatedKey', token: key });
      keys.add(key);
    }
    const result = blockInstances(block, { calendar, asOf, through, dimensions, filter });
    if (!result.ok) {
      issues.push({ block: block.key, column: '', code: result.code, token: result.token });
      continue;
    }
    if (result.hasGaps) tell({ block: block.key, column: '', code: 'totalOverGaps', token: block.repeat!.over });
    const shown = withinLimit(result.standings, block, issues);
    for (const standing of shown) {
      const own = blocks.push({ key: standing.key, heading: headingOf(block, standing), isTotal: standing.isTotal }) - 1;
      for (const column of block.columns) slots.push({ block, column, standing, own });
    }
  }
  if (slots.length > MOST_COLUMNS) {
    const { block, column } = slots[MOST_COLUMNS]!;
    issues.push({ block: block.key, column: column.key, code: 'tooManyColumns', token: String(slots.length) });
    slots.length = MOST_COLUMNS;
  }
  const positions = new Map(slots.map(({ standing, column }, index) => [`${standing.key}.${column.key}`, index]));
  const laidOut = slots.map((slot, index) => planColumn(slot, index));
  const { columns: compared, apart } = compareEqualMonths(laidOut, { calendar, posted, hasFlows });
  const columns = compared.map((column) => withoutLaterMonths(column, posted));
  for (const { index } of apart) {
    const { block, column } = slots[index]!;
    tell({ block: block.key, column: column.key, code: 'noCommonMonths', token: column.heading });
  }
  return { blocks, columns, order: derivedOrder(), issues };

  /** A block whose amounts are all pinned is headed by the months they hold, whatever it repeats over. */
  function headingOf(block: Block, standing: BlockInstance): string {
    const amounts = block.columns.filter((column) => column.kind === 'amount');
    if (amounts.length === 0 || amounts.some(({ span }) => span.pinnedTo === undefined)) return standing.heading();
    const spans = amounts.flatMap((column) => {
      const resolved = spanOver(column, standing.anchors);
      return resolved.ok ? [resolved.span] : [];
    });
    if (spans.length === 0) return standing.heading();
    const from = Math.min(...spans.map((span) => span.from)) as PeriodIndex;
    const to = Math.max(...spans.map((span) => span.to)) as PeriodIndex;
    return standing.heading(spanWords(calendar, { from, to }));
  }

  /** The heading of a column over the months it holds; one that is pinned among others that move names its months. */
  function columnHeading(column: Column, span: ResolvedSpan, pinnedApart: boolean): string {
    const words = span.ok ? spanWords(calendar, span.span) : '';
    if (/\{(?:span|date)\}/.test(column.heading))
      return column.heading.replaceAll('{span}', words).replaceAll('{date}', span.ok ? endDateWords(calendar, span.span.to) : '');
    return pinnedApart && words !== '' ? `${column.heading}, ${words}` : column.heading;
  }

  /** The union of a column's spans over all anchors; refused as soon as one is. */
  function spanOver(column: Column & { kind: 'amount' }, anchors: readonly PeriodIndex[]): ResolvedSpan {
    const all = anchors.map((anchor) => resolveSpan(calendar, column.span, { asOf: anchor, through }));
    const refused = all.find((each) => !each.ok);
    if (refused) return refused;
    const spans = all.flatMap((each) => (each.ok ? [each.span] : []));
    const from = Math.min(...spans.map((span) => span.from)) as PeriodIndex;
    const to = Math.max(...spans.map((span) => span.to)) as PeriodIndex;
    return { ok: true, span: { from, to } };
  }

  function planColumn({ block, column, standing, own }: Slot, index: number): PlannedColumn {
    const spanOf =
      column.kind === 'amount'
        ? spanOver(column, standing.anchors)
        : resolveSpan(calendar, block.span, { asOf: standing.anchors.at(-1)!, through });
    const common = {
      index,
      block: own,
      key: `${standing.key}.${column.key}`,
      heading: columnHeading(column, spanOf, isPinnedApart(block, column)),
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
    if (isUnfinished(column)) {
      tell({ block: block.key, column: column.key, code: 'unfinished', token: column.heading });
      return { ...common, kind: 'faulty' };
    }
    const work = workOf(column, { at: standing, resolved: spanOf }, locate);
    if (missing.length === 0) return { ...common, ...work };
    for (const token of missing) tell({ block: block.key, column: column.key, code: 'unknownColumn', token });
    return { ...common, kind: 'faulty' };

    function workOf(
      of: Column,
      { at, resolved }: { readonly at: BlockInstance; readonly resolved: ResolvedSpan },
      position: (key: string) => number,
    ): ColumnWork {
      switch (of.kind) {
        case 'amount':
          return {
            kind: 'amount',
            scenario: of.scenario,
            resolved,
            isPriorPeriod: isEarlier(of.span, resolved, at.anchors.at(-1)!),
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
          return {
            kind: 'share',
            of: position(of.of),
            baseLine: of.baseLine ?? null,
            ownGroup: of.ownGroup ?? false,
            ownLine: of.ownLine ?? false,
            baseColumn: position(of.baseColumn ?? of.of),
          };
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

  /** A fault of a repeated column is reported once, not for every part. */
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

/** Whether a column was added and not filled in: it refers to no column, or has no formula. */
function isUnfinished(column: Column): boolean {
  switch (column.kind) {
    case 'difference':
    case 'percentDifference':
      return column.compared === '' || column.base === '';
    case 'share':
    case 'runningTotal':
      return column.of === '';
    case 'formula':
      return column.expression.trim() === '';
    case 'amount':
    case 'benchmark':
      return false;
  }
}

/** Whether a column is pinned in a block in which other amounts move with the month. */
function isPinnedApart({ columns }: Block, column: Column): boolean {
  if (column.kind !== 'amount' || column.span.pinnedTo === undefined) return false;
  return columns.some((each) => each.kind === 'amount' && each.span.pinnedTo === undefined);
}

/** Whether a span lies before the month it is looked at from: shifted back, or pinned to an earlier one. */
function isEarlier(definition: SpanDefinition, resolved: ResolvedSpan, anchor: PeriodIndex): boolean {
  const { months = 0, quarters = 0, years = 0 } = definition.shift ?? {};
  if (definition.pinnedTo !== undefined) return resolved.ok && resolved.span.to < anchor;
  return months + 3 * quarters + PERIODS_PER_YEAR * years < 0;
}

/**
 * The parts of a repeat that fit into the most columns: a repeat over months, quarters or years leaves
 * its oldest parts out and says how many.
 */
function withinLimit(standings: readonly BlockInstance[], block: Block, issues: ColumnIssue[]): readonly BlockInstance[] {
  const most = Math.floor(MOST_COLUMNS / Math.max(1, block.columns.length));
  if (standings.length <= most || block.repeat === undefined || block.repeat.over === 'dimension') return standings;
  const left = standings.length - most;
  issues.push({ block: block.key, column: '', code: 'oldestLeftOut', token: `${left} ${block.repeat.over}` });
  return standings.slice(left);
}

/** Actuals of a span that goes on past the last month of them end there, whatever is posted later. */
function withoutLaterMonths(column: PlannedColumn, posted: PostedMonths): PlannedColumn {
  if (column.kind !== 'amount' || column.scenario !== 'actual' || posted === null || !column.resolved.ok) return column;
  const { from, to } = column.resolved.span;
  return from > posted.last || to <= posted.last ? column : { ...column, resolved: { ok: true, span: { from, to: posted.last } } };
}
