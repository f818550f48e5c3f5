import type { BudgetGridDto, CellDto, CellShape, GridDto, PackedBudgetGrid, PackedGrid } from '@wise-margin/contract';

const shapeOf = (cell: CellDto): CellShape => {
  if (cell.kind === 'amount' || cell.kind === 'quantity' || cell.kind === 'ratio') {
    const { value: _value, ...shape } = cell;
    return shape;
  }
  return cell;
};

/** Rows of cells for the wire. */
export type PackedRows = Pick<PackedGrid, 'shapes' | 'rows'>;

/**
 * Rows of cells for the wire. Most cells differ from one another by their number alone, so each row is
 * sent as its numbers and, beside them, positions in a list of what kinds of cells there are.
 */
export function packRows(cells: readonly (readonly CellDto[])[]): PackedRows {
  const shapes: CellShape[] = [];
  // a map for what a cell is, and in it one for its mark: a key made of texts for each cell costs more than all the rest
  const positions = new Map<string, Map<string | undefined, number>>();
  const positionOf = (cell: CellDto): number => {
    const what = cell.kind === 'amount' || cell.kind === 'quantity' ? cell.kind : cell.kind === 'ratio' ? cell.unit : cell.reason;
    const mark = 'value' in cell ? cell.favor : cell.kind;
    let marks = positions.get(what);
    if (!marks) positions.set(what, (marks = new Map()));
    let position = marks.get(mark);
    if (position === undefined) marks.set(mark, (position = shapes.push(shapeOf(cell)) - 1));
    return position;
  };
  const rows = cells.map((row) => ({ shapes: row.map(positionOf), values: row.map((cell) => ('value' in cell ? cell.value : 0)) }));
  return { shapes, rows };
}

/** The cells of packed rows, as they were. */
export function unpackRows({ shapes, rows }: PackedRows): CellDto[][] {
  return rows.map((row) =>
    row.shapes.map((position, column): CellDto => {
      const shape = shapes[position]!;
      if (shape.kind === 'blank' || shape.kind === 'notMeaningful') return shape;
      const value = row.values[column]!;
      if (shape.kind === 'amount') return shape.favor ? { kind: 'amount', value, favor: shape.favor } : { kind: 'amount', value };
      return { ...shape, value };
    }),
  );
}

/** A grid for the wire. */
export const packGrid = ({ cells, ...head }: GridDto): PackedGrid => ({ ...head, ...packRows(cells) });

/** The cells of a packed grid, as they were. */
export const unpackGrid = ({ shapes, rows, ...head }: PackedGrid): GridDto => ({ ...head, cells: unpackRows({ shapes, rows }) });

export const packBudgetGrid = ({ grid, ...rest }: BudgetGridDto): PackedBudgetGrid => ({ ...rest, grid: packGrid(grid) });
export const unpackBudgetGrid = ({ grid, ...rest }: PackedBudgetGrid): BudgetGridDto => ({ ...rest, grid: unpackGrid(grid) });
