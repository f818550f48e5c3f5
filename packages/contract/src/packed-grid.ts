import type { BudgetGridDto, PackedBudgetGrid } from './budgets.ts';
import type { CellDto, CellShape, GridDto, PackedGrid } from './statements.ts';

const shapeOf = (cell: CellDto): CellShape => {
  if (cell.kind === 'amount' || cell.kind === 'ratio') {
    const { value: _value, ...shape } = cell;
    return shape;
  }
  return cell;
};

/**
 * A grid for the wire. Most cells differ from one another by their number alone, so each row is sent
 * as its numbers and, beside them, positions in a list of what kinds of cells there are.
 */
export function packGrid({ cells, ...head }: GridDto): PackedGrid {
  const shapes: CellShape[] = [];
  const positions = new Map<string, number>();
  const positionOf = (cell: CellDto): number => {
    const key = `${cell.kind} ${'unit' in cell ? cell.unit : ''} ${'favor' in cell ? cell.favor : ''} ${'reason' in cell ? cell.reason : ''}`;
    let position = positions.get(key);
    if (position === undefined) positions.set(key, (position = shapes.push(shapeOf(cell)) - 1));
    return position;
  };
  const rows = cells.map((row) => ({ shapes: row.map(positionOf), values: row.map((cell) => ('value' in cell ? cell.value : 0)) }));
  return { ...head, shapes, rows };
}

/** The cells of a packed grid, as they were. */
export function unpackGrid({ shapes, rows, ...head }: PackedGrid): GridDto {
  return {
    ...head,
    cells: rows.map((row) =>
      row.shapes.map((position, column): CellDto => {
        const shape = shapes[position]!;
        return shape.kind === 'amount' || shape.kind === 'ratio' ? { ...shape, value: row.values[column]! } : shape;
      }),
    ),
  };
}

export const packBudgetGrid = ({ grid, ...rest }: BudgetGridDto): PackedBudgetGrid => ({ ...rest, grid: packGrid(grid) });
export const unpackBudgetGrid = ({ grid, ...rest }: PackedBudgetGrid): BudgetGridDto => ({ ...rest, grid: unpackGrid(grid) });
