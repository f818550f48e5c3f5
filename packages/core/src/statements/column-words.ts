import { shortPeriodName, spanWords } from '../calendar/period-words.ts';
import { bothFilters } from '../ledger/dimension.ts';
import type { BalanceMeasure } from './column-set.ts';
import { coveredSpan } from './comparable-months.ts';
import type { StatementGrid } from './evaluate.ts';

const MEASURES: Readonly<Record<BalanceMeasure, string>> = {
  closing: '',
  change: 'net change of balances',
  opening: 'opening balance',
  average: 'average of opening and closing balance',
};

/** A figure in words: `Actual, Apr to Oct 2026, department Tours`. */
export function columnWords(grid: StatementGrid, columnIndex: number): string {
  const { plan } = grid;
  const column = plan.columns[columnIndex]!;
  const of = (index: number): string => columnWords(grid, index);
  switch (column.kind) {
    case 'faulty':
      return 'A column that cannot be read';
    case 'amount': {
      const covered = coveredSpan(column, plan.posted) ?? (column.resolved.ok ? column.resolved.span : null);
      const span = covered ? spanWords(plan.calendar, covered) : 'no such months in the calendar';
      const filters = Object.entries(bothFilters(grid.filter, column.filter)).map(
        ([dimension, values]) => `${dimension} ${values.map((value) => value || 'none').join(' or ')}`,
      );
      const measure = plan.lines.some(({ holdsBalances }) => holdsBalances) || column.measure === 'opening' ? MEASURES[column.measure] : '';
      // a closing balance belongs to the end of its months
      const isBalanceSheet = column.measure === 'closing' && !plan.pointsInTime.includes('never') && covered !== null;
      const months = isBalanceSheet ? `balance at the end of ${shortPeriodName(plan.calendar, covered.to)}` : span;
      return [grid.sources(column.scenario).name, months, measure, ...filters].filter((text) => text !== '').join(', ');
    }
    case 'difference':
    case 'percentDifference': {
      const { compared, base } = (plan.pointsInTime.includes('never') ? column.flows : null) ?? column;
      return column.kind === 'difference' ? `${of(compared)}, less ${of(base)}` : `Change from ${of(base)} to ${of(compared)}, in percent`;
    }
    case 'share': {
      const base = column.baseLine === null ? plan.percentBase : (plan.lineOfKey.get(column.baseLine) ?? -1);
      const words = column.ownLine
        ? 'the same line'
        : column.ownGroup
          ? 'the total of its own group'
          : (plan.lines[base]?.name.toLowerCase() ?? 'no line');
      const within = column.baseColumn === column.of ? '' : ` in ${of(column.baseColumn)}`;
      return `Percent of ${words}${within}: ${of(column.of)}`;
    }
    case 'formula':
      return `Calculated from ${[...column.reads.values()].map(of).join('; ')}`;
    case 'benchmark':
      return 'The benchmark of the line';
    case 'runningTotal':
      return `Sum of ${of(column.columns[0]!)}${column.columns.length > 1 ? ` through ${of(column.columns.at(-1)!)}` : ''}`;
  }
}
