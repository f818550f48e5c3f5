import type { GridDto } from '@wise-margin/contract';
import { describe, expect, it } from 'vitest';

import { budgetColumns } from './grid-columns.ts';
import { changeAll, editAt, fillRight, type Grid, pasteBlock, placesBetween, spreadAgain, totalOver } from './grid-edits.ts';
import { budgetLines } from './grid-lines.ts';

const MONTHS = ['Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec', 'Jan', 'Feb', 'Mar'];
const blocks = [
  ...MONTHS.map((month) => ({ key: `months.${month}`, heading: `${month} 2027`, isTotal: false })),
  ...[1, 2, 3, 4].map((quarter) => ({ key: `quarters.${quarter}`, heading: `Q${quarter}`, isTotal: false })),
  { key: 'year', heading: 'Year', isTotal: false },
];
const line = (key: string, kind: string, parent: string | null, account: string | null = null, isZero = false) => ({
  key,
  kind,
  parent,
  account,
  isZero,
  sign: 1,
  isPart: false,
  name: key,
});
const dto = {
  blocks,
  columns: [
    ...blocks.slice(0, 16).map((_, block) => ({ key: `${block}`, block, heading: 'Budget' })),
    { key: 'year.budget', block: 16, heading: 'Budget' },
    { key: 'year.prior', block: 16, heading: 'Last year' },
  ],
  lines: [
    line('section', 'section', null),
    line('group', 'accounts', 'section'),
    line('a', 'account', 'group', '5010'),
    line('b', 'account', 'group', '5020'),
    line('lonely', 'accounts', 'section'),
    line('c', 'account', 'lonely', '5110'),
    line('d', 'account', 'lonely2', '5999', true),
    line('total', 'total', 'section'),
    line('profit', 'formula', null),
  ],
} as unknown as GridDto;
const grid: Grid = { lines: budgetLines(dto.lines, { showAll: false }), columns: budgetColumns(dto, false), spread: 'even' };
const rowOf = (key: string) => grid.lines.findIndex((each) => each.line.key === key);

describe('lines and columns of the month grid', () => {
  it('leave out groups of one account and accounts without figures', () =>
    expect(grid.lines.map((each) => each.line.key)).toEqual(['section', 'group', 'a', 'b', 'c', 'total', 'profit']));
  it('take no figure for a part of an account, nor for what stands above it', () => {
    const parts = dto.lines.map((each) => (each.key === 'a' ? { ...each, isPart: true } : each));
    const accounts = (key: string) => budgetLines(parts, { showAll: false }).find((each) => each.line.key === key)!.accounts;
    expect(['a', 'group', 'total', 'b'].map(accounts)).toEqual([[], [], [], ['5020']]);
  });
  it('keep an account without figures that was asked for', () => {
    const shown = (always: string) => budgetLines(dto.lines, { showAll: false, always }).map((each) => each.line.key);
    expect(shown('5999')).toEqual(['section', 'group', 'a', 'b', 'c', 'd', 'total', 'profit']);
    expect(shown('5110')).toEqual(grid.lines.map((each) => each.line.key));
  });
  it('know the accounts a figure typed is for', () =>
    expect(grid.lines.map(({ accounts }) => accounts)).toEqual([
      [],
      ['5010', '5020'],
      ['5010'],
      ['5020'],
      ['5110'],
      ['5010', '5020', '5110'],
      [],
    ]));
  it('put quarters after their months', () => {
    const headings = budgetColumns(dto, true).map(({ heading }) => heading);
    expect(headings.slice(0, 5)).toEqual(['Apr', 'May', 'Jun', 'Q1', 'Jul']);
    expect(headings.slice(-3)).toEqual(['Q4', 'Year', 'Last year']);
  });
});

describe('edits of the month grid', () => {
  it('are of a month, a quarter or the year', () => {
    expect(editAt(grid, { row: rowOf('a'), column: 3 }, '7')).toEqual({ kind: 'month', account: '5010', sign: 1, month: 3, text: '7' });
    expect(editAt(grid, { row: rowOf('a'), column: 12 }, '7')).toMatchObject({ kind: 'year', spread: 'even' });
    const quarterly = { ...grid, columns: budgetColumns(dto, true) };
    expect(editAt(quarterly, { row: rowOf('a'), column: 3 }, '7')).toMatchObject({ kind: 'span', months: [0, 1, 2] });
  });
  it('share a figure among the accounts beneath a total', () =>
    expect(editAt(grid, { row: rowOf('total'), column: 0 }, '7')).toMatchObject({ account: '5010', together: ['5020', '5110'] }));
  it('are none where nothing can be typed', () => {
    expect(editAt(grid, { row: rowOf('profit'), column: 0 }, '7')).toBeNull();
    expect(editAt(grid, { row: rowOf('a'), column: 13 }, '7')).toBeNull();
  });
  it('of a block go down accounts and right over months, and tell what found no place', () => {
    const { edits, left } = pasteBlock(grid, { row: rowOf('a'), column: 11 }, '1\t2\t3\r\n4\t\t\n5\n6\n');
    expect(edits).toEqual([
      { kind: 'month', account: '5010', sign: 1, month: 11, text: '1' },
      { kind: 'year', account: '5010', sign: 1, text: '2', spread: 'even' },
      { kind: 'month', account: '5020', sign: 1, month: 11, text: '4' },
      { kind: 'month', account: '5110', sign: 1, month: 11, text: '5' },
    ]);
    expect(left).toBe('Not pasted: 1 row past the last line and 1 column past the end of the year.');
    expect(pasteBlock(grid, { row: rowOf('c'), column: 0 }, '9').left).toBeNull();
    const parts = dto.lines.map((each) => (each.key === 'b' ? { ...each, isPart: true } : each));
    const over = pasteBlock({ ...grid, lines: budgetLines(parts, { showAll: false }) }, { row: rowOf('a'), column: 0 }, '1\t2\n3\t\n4\n');
    expect(over.edits.map((edit) => edit.account)).toEqual(['5010', '5010', '5110']);
    expect(over.left).toBe('Not pasted: 1 amount on rows that show part of an account.');
  });
  it('fill the first month of a selection to the right, row by row', () => {
    const places = placesBetween({ row: rowOf('b'), column: 2 }, { row: rowOf('a'), column: 0 });
    const edits = fillRight(grid, places, ({ row }) => `${row}`);
    expect(edits.map((edit) => ('month' in edit ? [edit.account, edit.month, 'text' in edit ? edit.text : ''] : []))).toEqual([
      ['5010', 1, `${rowOf('a')}`],
      ['5010', 2, `${rowOf('a')}`],
      ['5020', 1, `${rowOf('b')}`],
      ['5020', 2, `${rowOf('b')}`],
    ]);
  });
  it('of one text leave what follows by itself', () => {
    const places = placesBetween({ row: rowOf('group'), column: 11 }, { row: rowOf('a'), column: 12 });
    expect(changeAll(grid, places, '+5%')).toEqual([{ kind: 'month', account: '5010', sign: 1, month: 11, text: '+5%' }]);
    expect(changeAll(grid, [{ row: rowOf('a'), column: 12 }], '*2')).toHaveLength(1);
  });
  it('share one total among the selected months of each row', () => {
    const places = placesBetween({ row: rowOf('group'), column: 6 }, { row: rowOf('b'), column: 12 });
    const rest = [6, 7, 8, 9, 10, 11];
    expect(totalOver(grid, places, '900')).toEqual([
      { kind: 'span', account: '5010', sign: 1, months: rest, text: '900', spread: 'even' },
      { kind: 'span', account: '5020', sign: 1, months: rest, text: '900', spread: 'even' },
    ]);
    expect(totalOver(grid, placesBetween({ row: rowOf('a'), column: 3 }, { row: rowOf('b'), column: 3 }), '900')).toEqual([]);
  });
  it('spread the years of selected lines again', () =>
    expect(
      spreadAgain(grid, placesBetween({ row: rowOf('group'), column: 0 }, { row: rowOf('a'), column: 5 }), { yearText: () => '1200' }),
    ).toEqual([{ kind: 'year', account: '5010', sign: 1, text: '1200', spread: 'even' }]));
});
