/** A place in a grid of rows and columns, counted from 0. */
export type GridPlace = { readonly row: number; readonly column: number };
/** A grid as its keys see it. */
export type GridShape = {
  readonly rows: number;
  readonly columns: number;
  /** column -1 stands for a row's name, where that can be opened */
  readonly has: (place: GridPlace) => boolean;
  /** rows that PageUp and PageDown move by */
  readonly page: number;
};

const STEPS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

/** A key, and whether Ctrl (or Command) is held with it. */
type PressedKey = { readonly key: string; readonly isCtrl: boolean };

/**
 * Where a key leads in a grid: arrows to the next place, Home and End to the ends of the row, PageUp and
 * PageDown by a page, with Ctrl Home and End to the corners. Null for other keys, and where there is nothing.
 */
export function gridKeyTarget({ key, isCtrl }: PressedKey, from: GridPlace, grid: GridShape): GridPlace | null {
  const walk = (start: GridPlace, [down, right]: readonly [number, number]): GridPlace | null => {
    for (let { row, column } = start; row >= 0 && row < grid.rows && column >= -1 && column < grid.columns; row += down, column += right)
      if (grid.has({ row, column })) return { row, column };
    return null;
  };
  const step = STEPS[key];
  if (step) return isCtrl ? null : walk({ row: from.row + step[0], column: from.column + step[1] }, step);
  const last = grid.columns - 1;
  switch (key) {
    case 'Home':
      return walkRows(isCtrl ? 0 : from.row, isCtrl ? 1 : 0, (row) => walk({ row, column: 0 }, [0, 1]));
    case 'End':
      return walkRows(isCtrl ? grid.rows - 1 : from.row, isCtrl ? -1 : 0, (row) => walk({ row, column: last }, [0, -1]));
    case 'PageUp':
    case 'PageDown': {
      if (isCtrl) return null;
      const way = key === 'PageUp' ? -1 : 1;
      const row = Math.min(grid.rows - 1, Math.max(0, from.row + way * grid.page));
      return walk({ row, column: from.column }, [way, 0]) ?? walk({ row, column: from.column }, [-way, 0]);
    }
    default:
      return null;
  }

  /** The first row from one on that has a place; with a step of 0 that row alone. */
  function walkRows(start: number, by: number, find: (row: number) => GridPlace | null): GridPlace | null {
    for (let row = start; row >= 0 && row < grid.rows; row += by) {
      const found = find(row);
      if (found !== null || by === 0) return found;
    }
    return null;
  }
}
