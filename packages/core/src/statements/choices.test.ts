import { describe, expect, it } from 'vitest';

import { periodOfKey } from '../calendar/fiscal-calendar.ts';
import { spanDefinitionWords } from '../calendar/span-definition-words.ts';
import { cellDrillDown } from './cell-drill-down.ts';
import type { Column } from './column-set.ts';
import { columnWords } from './column-words.ts';
import { fillFields } from './display.ts';
import type { Line } from './line-set.ts';
import { BALANCE_LINES } from './shipped/balance-lines.ts';
import { shownColumns } from './shown-columns.ts';
import { actual, block, calendar, month, run, sales, sold, sourceOf } from './small-books.ts';

describe('benchmarks', () => {
  const margin: Line = {
    kind: 'formula',
    key: 'margin',
    name: 'Margin',
    expression: 'sales / sales',
    result: 'percent',
    polarity: 'higherIsBetter',
  };
  const columns: Column[] = [
    actual,
    { kind: 'share', key: 'share', heading: '%', of: 'actual' },
    { kind: 'benchmark', key: 'benchmark', heading: 'Benchmark', ifFilled: true },
    { kind: 'difference', key: 'above', heading: 'Above', compared: 'share', base: 'benchmark', ifFilled: true },
    { kind: 'difference', key: 'ratio_above', heading: 'Above', compared: 'actual', base: 'benchmark', ifFilled: true },
  ];
  it('stand beside the share of a line and beside a ratio, and are compared in points', () => {
    const { at, grid } = run({
      postings: [sold(200)],
      lines: [sales, margin],
      blocks: [block(columns)],
      benchmarks: new Map([
        ['sales', { kind: 'target', value: 0.9 }],
        ['margin', { kind: 'industry', value: 1.25 }],
      ]),
    });
    expect(at('sales', 'b.benchmark')).toEqual({ kind: 'ratio', value: 0.9, unit: 'percent' });
    expect(at('sales', 'b.above')).toMatchObject({ kind: 'ratio', unit: 'points', favor: 'F' });
    expect(at('margin', 'b.ratio_above')).toMatchObject({ value: -0.25, unit: 'points', favor: 'U' });
    expect(shownColumns(grid)).toHaveLength(5);
    expect(cellDrillDown(grid, 0, 2)).toEqual({ kind: 'none' });
    expect(columnWords(grid, 2)).toBe('The benchmark of the line');
  });
  it('leave no columns behind where no line has one', () => {
    const { grid, value } = run({ postings: [sold(200)], lines: [sales, margin], blocks: [block(columns)] });
    expect(shownColumns(grid).map(({ key }) => key)).toEqual(['b.actual', 'b.share']);
    expect(value('margin', 'b.benchmark')).toBe('noBenchmark');
  });
});

describe('a statement of some accounts', () => {
  it('has no other accounts in its lines, and totals of those only', () => {
    const all: Line = { kind: 'accounts', key: 'all', name: 'All', selection: { ranges: [{ from: '0', to: '9999' }] }, sign: 'debit' };
    const { value, plan } = run({ postings: [sold(70)], lines: [all], blocks: [block([actual])], onlyAccounts: ['4000', '6000'] });
    expect(value('all', 'b.actual')).toBe(-70);
    expect(plan.lines.filter(({ kind }) => kind === 'account').map(({ key }) => key)).toEqual(['all.4000', 'all.6000']);
  });
  it('shows the result of those accounts, and says where earlier results cannot be split', () => {
    const only = (onlyAccounts: string[]) =>
      run({ postings: [sold(70), sold(30, 7, undefined, 2025)], lineSet: BALANCE_LINES, blocks: [block([actual])], onlyAccounts });
    expect(only(['1000', '4000']).value('result_of_the_year', 'b.actual')).toBe(70);
    expect(only(['1000', '4000']).value('earlier_results', 'b.actual')).toBe('partOfEarnings');
    expect(only(['1000']).value('earlier_results', 'b.actual')).toBe(0);
    expect(only(['1000', '4000', '6000', '6800']).value('earlier_results', 'b.actual')).toBe(30);
  });
});

describe('a column of statistics', () => {
  const heads: Column = { kind: 'amount', key: 'heads', heading: 'Headcount', scenario: 'statistic:headcount', span: month };
  const perHead: Column = { kind: 'formula', key: 'per', heading: 'Per head', expression: 'actual / heads', result: 'amount' };
  const october = periodOfKey(calendar, '2025-10')!;
  const source = sourceOf(
    [sold(9_000)],
    new Map([
      [`headcount ${october}`, 30],
      [`headcount ${october - 1}`, 20],
    ]),
  );
  it('stands on every line and makes amounts per head', () => {
    const { value, grid } = run({ lines: [sales], blocks: [block([actual, heads, perHead])], source });
    expect(value('sales', 'b.heads')).toBe(30);
    expect(value('sales', 'b.per')).toBe(300);
    expect(cellDrillDown(grid, 0, 1)).toMatchObject({ kind: 'statistic', series: 'headcount' });
  });
  it('is the last month’s, the mean or the sum, as balances would be shown', () => {
    const over = (measure: 'closing' | 'average' | 'change') =>
      run({ lines: [sales], blocks: [block([{ ...heads, span: { kind: 'yearToDate' }, measure } as Column])], source }).value(
        'sales',
        'b.heads',
      );
    expect([over('closing'), over('average'), over('change')]).toEqual([30, 25, 50]);
  });
  it('is blank where no month has it', () =>
    expect(
      run({ lines: [sales], blocks: [block([{ ...heads, scenario: 'statistic:visits' } as Column])], source }).value('sales', 'b.heads'),
    ).toBe('noStatistic'));
});

describe('spans in words', () => {
  const named = (key: string) => (key === '2025-03' ? 'Mar 2025' : key);
  it.each([
    [{ kind: 'month' }, 'month, follows the as-of month'],
    [{ kind: 'month', shift: { years: -1 } }, 'same month, one year earlier'],
    [{ kind: 'month', shift: { months: -1 } }, 'month, one month earlier'],
    [{ kind: 'yearToDate', shift: { years: -2 } }, 'year to date, two years earlier'],
    [{ kind: 'quarterToDate', shift: { quarters: 1 } }, 'quarter to date, one quarter later'],
    [{ kind: 'month', pinnedTo: '2025-03' }, 'month, pinned to Mar 2025'],
    [{ kind: 'fullYear', pinnedTo: '1999-03', shift: { years: -1 } }, 'full year, one year earlier, pinned to 1999-03'],
  ] as const)('%j is %s', (span, words) => expect(spanDefinitionWords(span, named)).toBe(words));
});

describe('fields of titles and footnotes', () => {
  const values = {
    company: 'Tern',
    as_of: 'October 2026',
    printed_on: '2026-11-23',
    view: 'Income',
    budget: 'FY2027',
    currency: 'US dollars',
  };
  it('are filled in, and what is no field stays as typed and is listed', () => {
    expect(fillFields('{company}, {as_of}', values)).toEqual({ text: 'Tern, October 2026', unknown: [] });
    expect(fillFields('{compny} {toString}', values)).toEqual({ text: '{compny} {toString}', unknown: ['compny', 'toString'] });
  });
});
