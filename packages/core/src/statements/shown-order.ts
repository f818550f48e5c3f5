import type { StatementGrid } from './evaluate.ts';
import type { PlannedLine } from './planned-line.ts';

/**
 * Indexes of all lines in the order they are shown: as planned, but for the parts of a line ordered by
 * amount, which stand by their size in the first amount column shown, largest first. What has no value
 * of the dimension stands last.
 */
export function shownOrder(grid: StatementGrid): number[] {
  const { lines, columns } = grid.plan;
  const column = columns.find(({ kind, hidden }) => kind === 'amount' && !hidden);
  const magnitude = ({ index }: PlannedLine): number => {
    const cell = column && grid.cells[index]![column.index]!;
    return cell?.kind === 'amount' ? Math.abs(cell.value) : -1;
  };
  const isWithout = ({ source }: PlannedLine): boolean => source.kind === 'slice' && source.value === '';
  const order: number[] = [];
  for (let index = 0; index < lines.length; index += 1) {
    const line = lines[index]!;
    order.push(index);
    if (line.order !== 'amount') continue;
    const parts: PlannedLine[] = [];
    while (lines[index + 1]?.parent === line.index) parts.push(lines[(index += 1)]!);
    parts.sort((a, b) => Number(isWithout(a)) - Number(isWithout(b)) || magnitude(b) - magnitude(a) || a.index - b.index);
    order.push(...parts.map((part) => part.index));
  }
  return order;
}
