import { describe, expect, it } from 'vitest';

import { periodOfKey } from '../calendar/fiscal-calendar.ts';
import type { Column } from './column-set.ts';
import type { Line } from './line-set.ts';
import { actual, block, calendar, run, sales, sold, sourceOf } from './small-books.ts';

describe('plain numbers in formulas', () => {
  const formula = (key: string, expression: string, result: 'amount' | 'times' = 'amount'): Line => ({
    kind: 'formula',
    key,
    name: key,
    expression,
    result,
  });
  it('stand for whole units of the currency where they meet an amount, and for themselves elsewhere', () => {
    const { value } = run({
      postings: [sold(25000)],
      lines: [
        sales,
        formula('more', 'sales + 100'),
        formula('less', '100 - sales'),
        formula('most', 'max(sales, 300)'),
        formula('part', 'sales * 0.1 - 5'),
        formula('plain', '12 * 3'),
        formula('share', '(sales + 250) / sales', 'times'),
        formula('per_dollar', '5 / sales', 'times'),
        formula('each', 'sales / 4'),
      ],
      blocks: [block([actual])],
    });
    expect(['more', 'less', 'most', 'part', 'plain', 'share', 'per_dollar', 'each'].map((key) => value(key, 'b.actual'))).toEqual([
      35000, -15000, 30000, 2000, 3600, 2, 0.02, 6250,
    ]);
  });
});

describe('statistics', () => {
  const values = new Map([
    [`heads ${periodOfKey(calendar, '2025-09')!}`, 10],
    [`heads ${periodOfKey(calendar, '2025-10')!}`, 14],
  ]);
  it('are added up, averaged or taken last over a span; without any the cell is blank', () => {
    const line = (over: 'sum' | 'average' | 'last'): Line => ({ kind: 'statistic', key: over, name: over, series: 'heads', over });
    const { value } = run({
      source: sourceOf([sold(2400)], values),
      lines: [
        sales,
        line('sum'),
        line('average'),
        line('last'),
        { kind: 'formula', key: 'per_head', name: '', expression: 'sales / average', result: 'amount' },
      ],
      blocks: [
        block([
          { ...actual, span: { kind: 'quarterToDate', shift: { months: -1 } } } as Column,
          { ...actual, key: 'all', span: { kind: 'yearToDate' } } as Column,
          { ...actual, key: 'none', span: { kind: 'month', shift: { years: -1 } } } as Column,
        ]),
      ],
    });
    expect(['sum', 'average', 'last', 'per_head'].map((key) => value(key, 'b.all'))).toEqual([24, 12, 14, 200]);
    expect(value('last', 'b.actual')).toBe(10);
    expect(value('sum', 'b.none')).toBe('noStatistic');
  });
});
