import { describe, expect, it } from 'vitest';

import { gridKeyTarget, type GridShape } from './grid-keys.ts';

// row 1 is a heading without figures; rows 0 and 3 open
const grid: GridShape = {
  rows: 5,
  columns: 4,
  page: 2,
  has: ({ row, column }) => (column === -1 ? row === 0 || row === 3 : row !== 1 && !(row === 4 && column === 3)),
};
const at = (row: number, column: number) => ({ row, column });

describe('keys in a grid', () => {
  it.each([
    ['ArrowDown', false, at(0, 1), at(2, 1)],
    ['ArrowUp', false, at(2, 1), at(0, 1)],
    ['ArrowUp', false, at(0, 1), null],
    ['ArrowLeft', false, at(0, 0), at(0, -1)],
    ['ArrowLeft', false, at(2, 0), null],
    ['ArrowRight', false, at(0, -1), at(0, 0)],
    ['Home', false, at(2, 3), at(2, 0)],
    ['End', false, at(4, 0), at(4, 2)],
    ['Home', true, at(3, 2), at(0, 0)],
    ['End', true, at(0, 0), at(4, 2)],
    ['PageDown', false, at(0, 2), at(2, 2)],
    ['PageDown', false, at(3, 3), at(3, 3)],
    ['PageUp', false, at(3, 2), at(0, 2)],
    ['ArrowDown', true, at(0, 0), null],
    ['x', false, at(0, 0), null],
  ] as const)('%s, ctrl %s', (key, ctrl, from, to) => expect(gridKeyTarget({ key, isCtrl: ctrl }, from, grid)).toEqual(to));
});
