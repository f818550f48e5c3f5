import { describe, expect, it } from 'vitest';

import { cellDrillDown } from './cell-drill-down.ts';
import type { Column } from './column-set.ts';
import type { Block } from './column-set.ts';
import { columnWords } from './column-words.ts';
import type { Line } from './line-set.ts';
import { actual, block, month, run, sales, sold } from './small-books.ts';

describe('columns', () => {
  const blocks = (columns: readonly Column[], more: Partial<Block> = {}) => [block([actual, ...columns], more)];
  const postings = [sold(100, 5), sold(30, 6), sold(10, 7)];
  it('compute formulas over columns of their block and of others', () => {
    const { value, issues } = run({
      postings,
      lines: [sales],
      blocks: [
        ...blocks([{ kind: 'formula', key: 'twice', heading: '', expression: 'actual * 2 + other.before', result: 'amount' }]),
        {
          key: 'other',
          heading: '',
          span: month,
          columns: [{ ...actual, key: 'before', span: { kind: 'month', shift: { months: -1 } } } as Column],
        },
      ],
    });
    expect(issues).toEqual([]);
    expect(value('sales', 'b.twice')).toBe(50);
  });
  it('run a total over the parts of a repeat, which the total block shows once', () => {
    const { value } = run({
      postings,
      lines: [sales],
      blocks: blocks([{ kind: 'runningTotal', key: 'run', heading: '', of: 'actual' }], {
        repeat: { over: 'months', last: 3 },
        total: { heading: 'All' },
      }),
    });
    expect(['b.2025-08.run', 'b.2025-09.run', 'b.2025-10.run', 'b.total.run'].map((key) => value('sales', key))).toEqual([
      100, 130, 140, 140,
    ]);
  });
  it('recompute percentages of a total block from its amounts', () => {
    const { value } = run({
      postings: [sold(100, 6), sold(10, 7), sold(50, 6, undefined, 2025), sold(40, 7, undefined, 2025)],
      lines: [sales],
      blocks: blocks(
        [
          { ...actual, key: 'prior', span: { kind: 'month', shift: { years: -1 } } } as Column,
          { kind: 'percentDifference', key: 'percent', heading: '', compared: 'actual', base: 'prior' },
        ],
        { repeat: { over: 'months', last: 2 }, total: { heading: 'All' } },
      ),
    });
    expect([value('sales', 'b.2025-09.percent'), value('sales', 'b.2025-10.percent')]).toEqual([1, -0.75]);
    expect(value('sales', 'b.total.percent')).toBeCloseTo(20 / 90, 12);
  });
  it('repeat over quarters and years; the one under way says how far it goes', () => {
    const over = (kind: 'quarters' | 'years', span: 'quarterToDate' | 'yearToDate') =>
      run({
        postings: [...postings, sold(7, 3, undefined, 2025)],
        lines: [sales],
        blocks: [block([{ ...actual, span: { kind: span } } as Column], { repeat: { over: kind, last: 3 } })],
      });
    const years = over('years', 'yearToDate');
    expect(years.plan.blocks.map(({ heading }) => heading)).toEqual(['FY2024', 'FY2025', 'FY2026 to Oct 2025']);
    expect(years.plan.columns.map(({ key }) => years.value('sales', key))).toEqual([0, 7, 140]);
    const quarters = over('quarters', 'quarterToDate');
    expect(quarters.plan.blocks.map(({ heading }) => heading)).toEqual(['Q1 FY2026', 'Q2 FY2026', 'Q3 FY2026 to Oct 2025']);
    expect(quarters.plan.columns.map(({ key }) => quarters.value('sales', key))).toEqual([0, 130, 10]);
  });
  it('repeat over the values of a dimension, with a total of all', () => {
    const { plan, value } = run({
      postings: [sold(5, 7, 'North'), sold(50, 7, 'South'), sold(500)],
      lines: [sales],
      blocks: [block([actual], { heading: '{value}', repeat: { over: 'dimension', dimension: 'department' }, total: { heading: 'All' } })],
    });
    expect(plan.blocks.map(({ heading }) => heading)).toEqual(['North', 'South', 'No department', 'All']);
    expect(plan.columns.map(({ key }) => value('sales', key))).toEqual([5, 50, 500, 555]);
  });
  it('stay where they are pinned, and move where they are not', () => {
    const pinned: Column = { ...actual, key: 'pinned', span: { kind: 'month', pinnedTo: '2025-08' } } as Column;
    const shown = (asOf: string) => {
      const { value } = run({ postings, lines: [sales], blocks: blocks([pinned]), asOf });
      return [value('sales', 'b.actual'), value('sales', 'b.pinned')];
    };
    expect([shown('2025-09'), shown('2025-10')]).toEqual([
      [30, 100],
      [10, 100],
    ]);
  });
  it('take shares of the own group, or of the line a line names', () => {
    const expense: Line = { kind: 'accounts', key: 'wages', name: 'Wages', selection: { accounts: ['6000'] }, sign: 'debit' };
    const other: Line = {
      kind: 'accounts',
      key: 'depreciation',
      name: 'Depreciation',
      selection: { accounts: ['6800'] },
      sign: 'debit',
      percentOf: 'sales',
    };
    const { value, grid, plan } = run({
      postings: [
        sold(400),
        { to: '6000', from: '1000', year: 2026, month: 7, amount: 60 },
        { to: '6800', from: '1590', year: 2026, month: 7, amount: 40 },
      ],
      lines: [
        sales,
        {
          kind: 'section',
          key: 'costs',
          name: 'Costs',
          lines: [expense, other, { kind: 'total', key: 'all', name: 'All', of: 'costs', sign: 'debit' }],
        },
      ],
      blocks: blocks([{ kind: 'share', key: 'share', heading: '', of: 'actual', ownGroup: true }]),
    });
    expect(['wages', 'depreciation', 'all', 'sales'].map((key) => value(key, 'b.share'))).toEqual([0.6, 0.1, 1, 'noLine']);
    expect(cellDrillDown(grid, plan.lineOfKey.get('wages')!, 1)).toMatchObject({
      parts: [{ role: 'part' }, { role: 'base', line: plan.lineOfKey.get('all') }],
    });
  });
  it('are described in words', () => {
    const { grid } = run({ postings, lines: [sales], blocks: blocks([{ kind: 'runningTotal', key: 'run', heading: '', of: 'actual' }]) });
    expect(columnWords(grid, 0)).toBe('Actual, Oct 2025');
    expect(columnWords(grid, 1)).toBe('Sum of Actual, Oct 2025');
  });
});
