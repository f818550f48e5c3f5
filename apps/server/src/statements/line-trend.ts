import type { LineTrendDto } from '@wise-margin/contract';
import { type Cell, indexToBase, periodAt, type PeriodIndex, shortPeriodName, type StatementGrid } from '@wise-margin/core';

import { notFound } from '../http/problem.ts';

/** A line of a statement by month, from a grid over `LINE_TREND_COLUMNS`. @throws ProblemError 404 when there is no such line */
export function lineTrendDto(grid: StatementGrid, lineKey: string): LineTrendDto {
  const { plan } = grid;
  const line = plan.lines[plan.lineOfKey.get(lineKey) ?? -1];
  if (!line) throw notFound(`line "${lineKey}"`);
  const row = grid.cells[line.index]!;
  const cellsOf = (key: string): Cell[] => plan.columns.filter((column) => column.key.endsWith(`.${key}`)).map(({ index }) => row[index]!);
  const valuesOf = (key: string): (number | null)[] => cellsOf(key).map((cell) => ('value' in cell ? cell.value : null));
  const [actual, budget, prior] = [valuesOf('actual'), valuesOf('budget'), valuesOf('prior')];
  const shown = [...cellsOf('actual'), ...cellsOf('budget'), ...cellsOf('prior')].find((cell) => 'value' in cell);
  const months = plan.columns.flatMap((column) =>
    column.kind === 'amount' && column.key.endsWith('.actual') && column.resolved.ok ? [column.resolved.span.to] : [],
  );
  const base = actual.findIndex((value) => value !== null && value !== 0);
  const against = base < 0 ? null : actual[base]!;
  const indexed = (values: readonly (number | null)[]) => indexToBase([against, ...values], 0).slice(1);
  const named = (period: PeriodIndex) => ({ period: periodAt(plan.calendar, period).key, name: shortPeriodName(plan.calendar, period) });
  return {
    line: { key: line.key, name: line.name },
    kind: shown?.kind === 'ratio' ? shown.unit : shown?.kind === 'quantity' ? 'quantity' : 'amount',
    months: months.map(named),
    actual,
    budget,
    prior,
    index: base < 0 ? null : { base: named(months[base]!).period, actual: indexed(actual), budget: indexed(budget), prior: indexed(prior) },
  };
}
