import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { cellDrillDown } from './cell-drill-down.ts';
import type { Line } from './line-set.ts';
import { shownOrder } from './shown-order.ts';
import { actual, block, run, sales, sold } from './small-books.ts';

describe('averages in formulas', () => {
  it('are exact, whatever each account is rounded to', () => {
    // opening 0, closing 1 and 3: averages 0.5 and 1.5, shown as 1 and 2; together they average 2
    const { value } = run({
      postings: [
        { to: '1100', from: '4000', year: 2026, month: 7, amount: 1 },
        { to: '1500', from: '4000', year: 2026, month: 7, amount: 3 },
      ],
      lines: [
        {
          kind: 'section',
          key: 's',
          name: 'S',
          lines: [
            { kind: 'accounts', key: 'a', name: 'A', selection: { accounts: ['1100'] }, sign: 'debit', measure: 'average' },
            { kind: 'accounts', key: 'b', name: 'B', selection: { accounts: ['1500'] }, sign: 'debit', measure: 'average' },
            { kind: 'total', key: 'all', name: 'All', of: 's', sign: 'debit' },
          ],
        },
        sales,
        { kind: 'formula', key: 'turnover', name: 'T', expression: 'sales / all', result: 'times' },
        { kind: 'formula', key: 'each', name: 'E', expression: 'sales / a', result: 'times' },
      ],
      blocks: [block([actual])],
    });
    expect([value('a', 'b.actual'), value('b', 'b.actual'), value('all', 'b.actual')]).toEqual([1, 2, 3]);
    expect([value('turnover', 'b.actual'), value('each', 'b.actual')]).toEqual([2, 8]);
  });
});

describe('what balance-sheet accounts show', () => {
  const cash: Line = { kind: 'accounts', key: 'cash', name: 'Cash', selection: { classes: ['cash'] }, sign: 'debit' };
  const measured = (measure: 'closing' | 'change' | 'opening' | 'average', span: 'month' | 'yearToDate' = 'month') =>
    run({
      postings: [sold(100, 5), sold(31, 6), sold(10, 7)],
      lines: [cash, sales],
      blocks: [block([{ ...actual, kind: 'amount', scenario: 'actual', span: { kind: span }, measure }])],
    });
  it('is the closing balance, the change, the opening balance, or the mean of both', () => {
    expect(measured('closing').value('cash', 'b.actual')).toBe(141);
    expect(measured('change').value('cash', 'b.actual')).toBe(10);
    expect(measured('opening').value('cash', 'b.actual')).toBe(131);
    expect(measured('average').value('cash', 'b.actual')).toBe(136);
  });
  it('is the year so far for the opening of an income account, nothing at the start of a year', () => {
    expect(measured('opening').value('sales', 'b.actual')).toBe(131);
    expect(measured('opening', 'yearToDate').value('sales', 'b.actual')).toBe(0);
    expect(measured('average').value('sales', 'b.actual')).toBe(10);
  });
  it('is set by the line where the line says so', () => {
    const { value } = run({
      postings: [sold(100, 5), sold(10, 7)],
      lines: [{ ...cash, measure: 'change' } as Line],
      blocks: [block([actual])],
    });
    expect(value('cash', 'b.actual')).toBe(10);
  });
});

describe('break-outs', () => {
  const byDepartment: Line = {
    kind: 'breakOut',
    key: 'sales',
    name: 'Sales',
    selection: { classes: ['revenue'] },
    sign: 'credit',
    by: 'department',
    order: 'amount',
  };
  const postings = fc.array(
    fc.record({
      amount: fc.integer({ min: -5000, max: 5000 }),
      month: fc.integer({ min: 1, max: 13 }),
      department: fc.constantFrom('North', 'South', undefined),
    }),
    { maxLength: 30 },
  );
  it('always add back to their line, in every column', () =>
    fc.assert(
      fc.property(postings, (rows) => {
        const { grid, plan } = run({
          postings: rows.map(({ amount, month: number, department }) => sold(amount, number, department)),
          lines: [byDepartment],
          blocks: [block([actual], { repeat: { over: 'months', within: { kind: 'fullYear' } }, total: { heading: 'Year' } })],
        });
        for (const column of plan.columns) {
          const figures = plan.lines
            .map(({ index }) => grid.cells[index]![column.index]!)
            .map((cell) => (cell.kind === 'amount' ? cell.value : NaN));
          expect(figures.slice(1).reduce((sum, each) => sum + each, 0)).toBe(figures[0]);
        }
      }),
      { numRuns: 40 },
    ));
  it('stand largest first, what has no value last, and lead to their own accounts', () => {
    const { grid, plan } = run({
      postings: [sold(5, 7, 'North'), sold(50, 7, 'South'), sold(500)],
      lines: [byDepartment, { kind: 'spacer', key: 's', name: '' }],
      blocks: [block([actual])],
    });
    expect(shownOrder(grid).map((index) => plan.lines[index]!.name)).toEqual(['Sales', 'South', 'North', 'No department', '']);
    const south = cellDrillDown(grid, plan.lineOfKey.get('sales.South')!, 0);
    expect(south).toMatchObject({ kind: 'accounts', sum: 50, filter: { department: ['South'] } });
  });
  it('tell a dimension that is not there, and the line still shows', () => {
    const { issues, value } = run({ postings: [sold(5)], lines: [{ ...byDepartment, by: 'region' } as Line], blocks: [block([actual])] });
    expect(issues).toMatchObject([{ of: 'line', line: 'sales', code: 'unknownDimension', token: 'region' }]);
    expect(value('sales', 'b.actual')).toBe(5);
  });
});

describe('lines with a filter of their own', () => {
  it('break a total into parts that it adds up', () => {
    const part = (key: string, department: string): Line => ({ ...sales, key, filter: { department: [department] } }) as Line;
    const { value, grid, plan } = run({
      postings: [sold(5, 7, 'North'), sold(50, 7, 'South'), sold(500)],
      lines: [
        { kind: 'section', key: 'regions', name: 'Regions', lines: [part('north', 'North'), part('south', 'South'), part('none', '')] },
        { kind: 'total', key: 'all', name: 'All', of: 'regions', sign: 'credit' },
      ],
      blocks: [block([actual])],
    });
    expect(['north', 'south', 'none', 'all'].map((key) => value(key, 'b.actual'))).toEqual([5, 50, 500, 555]);
    expect(cellDrillDown(grid, plan.lineOfKey.get('all')!, 0)).toMatchObject({ kind: 'cells', operation: 'sum' });
  });
});
