import type { FiscalCalendar, PeriodIndex } from '../calendar/fiscal-calendar.ts';
import { longPeriodName, shortPeriodName, spanWords } from '../calendar/period-words.ts';
import { resolveSpan, type ResolvedSpan } from '../calendar/span.ts';
import { NO_FILTER, type DimensionFilter } from '../ledger/dimension.ts';
import type { BalanceMeasure, Block, Column, ColumnSet, ScenarioRef } from './column-set.ts';

export type PlannedColumn = {
  readonly index: number;
  /** block key, the month for repeated blocks, and the column's key: `months.2026-10.actual` */
  readonly key: string;
  readonly block: number;
  readonly heading: string;
  readonly hidden: boolean;
} & (
  | {
      readonly kind: 'amount';
      readonly scenario: ScenarioRef;
      readonly resolved: ResolvedSpan;
      readonly isPriorYear: boolean;
      readonly measure: BalanceMeasure;
      readonly filter: DimensionFilter;
    }
  | { readonly kind: 'difference' | 'percentDifference'; readonly compared: number; readonly base: number; readonly bar: boolean }
  | { readonly kind: 'share'; readonly of: number; readonly baseLine: string | null }
);
export type PlannedBlock = { readonly key: string; readonly heading: string };
export type ColumnIssue = {
  readonly block: string;
  readonly column: string;
  readonly code: 'unknownColumn' | 'repeatedKey' | 'tooManyColumns';
  readonly token: string;
};
export type PlannedColumns = {
  readonly blocks: readonly PlannedBlock[];
  readonly columns: readonly PlannedColumn[];
  readonly issues: readonly ColumnIssue[];
};

const MOST_COLUMNS = 240;
/** One standing of a block: a month of its repeat, or (with several) the block that totals them. */
type Standing = { readonly key: string; readonly heading: string; readonly anchors: readonly PeriodIndex[] };

/** Lays a column set out for an as-of month: repeats become blocks, spans become periods, references become positions. */
export function planColumns(columnSet: ColumnSet, calendar: FiscalCalendar, asOf: PeriodIndex): PlannedColumns {
  const blocks: PlannedBlock[] = [];
  const columns: PlannedColumn[] = [];
  const issues: ColumnIssue[] = [];
  for (const block of columnSet.blocks) {
    for (const standing of standings(block, calendar, asOf)) {
      const own = blocks.push({ key: standing.key, heading: standing.heading }) - 1;
      const positions = new Map<string, number>();
      for (const column of block.columns) {
        if (columns.length >= MOST_COLUMNS) {
          issues.push({ block: block.key, column: column.key, code: 'tooManyColumns', token: String(MOST_COLUMNS) });
          return { blocks, columns, issues };
        }
        if (positions.has(column.key)) issues.push({ block: block.key, column: column.key, code: 'repeatedKey', token: column.key });
        const locate = (key: string): number => {
          const found = positions.get(key);
          if (found === undefined) issues.push({ block: block.key, column: column.key, code: 'unknownColumn', token: key });
          return found ?? 0;
        };
        positions.set(column.key, columns.length);
        columns.push(planColumn(column, { index: columns.length, block: own, standing, calendar, locate }));
      }
    }
  }
  return { blocks, columns, issues };
}

function planColumn(
  column: Column,
  {
    index,
    block,
    standing,
    calendar,
    locate,
  }: { index: number; block: number; standing: Standing; calendar: FiscalCalendar; locate: (key: string) => number },
): PlannedColumn {
  const common = { index, block, key: `${standing.key}.${column.key}`, heading: column.heading, hidden: column.hidden ?? false };
  switch (column.kind) {
    case 'amount': {
      const resolved = spanOver(calendar, column, standing.anchors);
      return {
        ...common,
        kind: 'amount',
        scenario: column.scenario,
        resolved,
        isPriorYear: (column.span.shift?.years ?? 0) < 0,
        measure: column.measure ?? 'closing',
        filter: column.filter ?? NO_FILTER,
      };
    }
    case 'difference':
    case 'percentDifference':
      return {
        ...common,
        kind: column.kind,
        compared: locate(column.compared),
        base: locate(column.base),
        bar: column.kind === 'difference' && (column.bar ?? false),
      };
    case 'share':
      return { ...common, kind: 'share', of: locate(column.of), baseLine: column.baseLine ?? null };
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

function standings(block: Block, calendar: FiscalCalendar, asOf: PeriodIndex): Standing[] {
  if (!block.repeat) {
    const resolved = resolveSpan(calendar, block.span, asOf);
    const words = !resolved.ok
      ? ''
      : resolved.span.from === resolved.span.to
        ? longPeriodName(calendar, resolved.span.to)
        : spanWords(calendar, resolved.span);
    return [{ key: block.key, heading: block.heading.replace('{span}', words), anchors: [asOf] }];
  }
  const within = resolveSpan(calendar, block.repeat.within, asOf);
  if (!within.ok) return [];
  const anchors = calendar.periods.slice(within.span.from, within.span.to + 1);
  const repeated = anchors.map((period) => ({
    key: `${block.key}.${period.key}`,
    heading: block.heading.replace('{span}', shortPeriodName(calendar, period.index)),
    anchors: [period.index],
  }));
  if (!block.total) return repeated;
  const heading = block.total.heading.replace('{span}', spanWords(calendar, within.span));
  return [...repeated, { key: `${block.key}.total`, heading, anchors: anchors.map((period) => period.index) }];
}
