import type { PeriodIndex } from '../calendar/fiscal-calendar.ts';
import type { ResolvedSpan } from '../calendar/span.ts';
import { bothFilters, type DimensionFilter } from '../ledger/dimension.ts';
import { blank, type Cell } from './cell.ts';
import type { BalanceMeasure } from './column-set.ts';
import type { StatisticOver } from './line-set.ts';
import type { AmountColumn } from './planned-column.ts';
import type { PlannedLine } from './planned-line.ts';
import type { ScenarioSource } from './scenario-source.ts';

/** What the scenario of a column of statistics begins with. */
export const STATISTIC = 'statistic:';
/** Of a column that says so; closing is what a column shows when nothing is chosen, and goes by the statistic. */
const OVER: Readonly<Record<Exclude<BalanceMeasure, 'closing'>, StatisticOver>> = { opening: 'last', average: 'average', change: 'sum' };

/** A statistic over a span: added up, averaged over the months that have it, or the last one; blank where no month has it. */
export function statisticOver(
  source: ScenarioSource,
  asked: { readonly series: string; readonly over: StatisticOver; readonly filter: DimensionFilter; readonly resolved: ResolvedSpan },
): Cell {
  const { series, over, filter, resolved } = asked;
  if (!resolved.ok) return blank(resolved.reason);
  const values: number[] = [];
  for (let period = resolved.span.from as number; period <= resolved.span.to; period += 1) {
    const value = source.statistic(series, filter, period as PeriodIndex);
    if (value !== null) values.push(value);
  }
  if (values.length === 0) return blank('noStatistic');
  const sum = values.reduce((total, value) => total + value, 0);
  return { kind: 'quantity', value: over === 'sum' ? sum : over === 'last' ? values.at(-1)! : sum / values.length };
}

/**
 * What a column of statistics shows on a line: the series under the line's own filter and, where the line
 * is one value of a dimension, for that value; so that a formula over columns gives amounts per head. A
 * column shows the statistic over its months as the statistic goes (guests summed, employees averaged), one of average
 * balances the mean, one of net changes the sum.
 */
export function statisticCell(
  line: PlannedLine,
  column: AmountColumn,
  { source, filter }: { readonly source: ScenarioSource; readonly filter: DimensionFilter },
): Cell {
  const { source: from } = line;
  if (from.kind === 'nothing') return blank('noLine');
  if (from.kind === 'expression' && from.result !== 'amount') return blank('ratioLine');
  const own = bothFilters(filter, line.filter);
  const series = column.scenario.slice(STATISTIC.length);
  return statisticOver(source, {
    series,
    over: column.measure === 'closing' ? (source.aggregation?.(series) ?? 'last') : OVER[column.measure],
    filter: from.kind === 'slice' ? bothFilters(own, { [from.dimension]: [from.value] }) : own,
    resolved: column.resolved,
  });
}
