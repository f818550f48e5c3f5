import { describe, expect, it } from 'vitest';

import type { PeriodIndex } from '../calendar/fiscal-calendar.ts';
import type { Block, Column } from './column-set.ts';
import { columnWords } from './column-words.ts';
import { evaluate } from './evaluate.ts';
import { MOST_COLUMNS, planColumns } from './plan-columns.ts';
import { BALANCE_LINES } from './shipped/balance-lines.ts';
import { DEPARTMENTS_COLUMNS } from './shipped/comparison-columns.ts';
import { block, calendar, chart, dimensions, month, run, sales, sold, sourceOf } from './small-books.ts';
import { planStatement } from './statement-plan.ts';

const lay = (blocks: readonly Block[], more: Partial<Parameters<typeof planColumns>[1]> = {}) =>
  planColumns({ key: 'c', name: 'C', blocks }, { calendar, asOf: 18 as PeriodIndex, dimensions, ...more });
const pinned: Column = { kind: 'amount', key: 'base', heading: 'Base', scenario: 'actual', span: { kind: 'month', pinnedTo: '2023-12' } };
const moving: Column = { kind: 'amount', key: 'actual', heading: 'Actual', scenario: 'actual', span: month };

describe('headings', () => {
  it('of a repeating block name the months its columns hold, pinned or not', () => {
    const repeated = block([pinned], { repeat: { over: 'months', last: 3 }, total: { heading: 'Total, {span}' } });
    expect(lay([repeated]).blocks.map(({ heading }) => heading)).toEqual(['Dec 2023', 'Dec 2023', 'Dec 2023', 'Total, Dec 2023']);
    expect(lay([{ ...repeated, columns: [moving] }]).blocks.map(({ heading }) => heading)).toEqual([
      'Aug 2024',
      'Sep 2024',
      'Oct 2024',
      'Total, Aug to Oct 2024',
    ]);
  });
  it('of a pinned column among others that move name its month', () => {
    const { columns, blocks } = lay([block([moving, pinned])]);
    expect([blocks[0]!.heading, ...columns.map(({ heading }) => heading)]).toEqual(['October 2024', 'Actual', 'Base, Dec 2023']);
  });
  it('of chosen months, quarters and years stand in order of time; a total is over parts in a row', () => {
    const chosen = (over: 'months' | 'quarters' | 'years', keys: readonly string[], span: Column) =>
      lay([block([span], { repeat: { over, chosen: keys }, total: { heading: 'Total, {span}' } })]);
    const headings = (laid: ReturnType<typeof lay>) => laid.blocks.map(({ heading }) => heading);
    expect(headings(chosen('months', ['2024-08', '2024-06', '2024-07', '2024-07'], moving))).toEqual([
      'Jun 2024',
      'Jul 2024',
      'Aug 2024',
      'Total, Jun to Aug 2024',
    ]);
    const apart = chosen('months', ['2024-06', '2024-08'], moving);
    expect(headings(apart)).toEqual(['Jun 2024', 'Aug 2024']);
    expect(apart.issues).toEqual([{ block: 'b', column: '', code: 'totalOverGaps', token: 'months' }]);
    const quarter: Column = { ...moving, span: { kind: 'quarterToDate' } } as Column;
    expect(headings(chosen('quarters', ['2024-04', '2024-09', '2024-10'], quarter))).toEqual([
      'Q1 FY2025',
      'Q2 FY2025',
      'Q3 FY2025 to Oct 2024',
      'Total, Apr to Oct 2024',
    ]);
    const year: Column = { ...moving, span: { kind: 'yearToDate' } } as Column;
    expect(headings(chosen('years', ['2023-05', '2024-04'], year)).slice(0, 2)).toEqual(['FY2024', 'FY2025 to Oct 2024']);
    expect(chosen('months', ['1990-01'], moving).issues).toEqual([{ block: 'b', column: '', code: 'outsideCalendar', token: 'b' }]);
  });
  it('of a total over a dimension name it, and the values a filter lets through', () => {
    const headings = (filter: Record<string, string[]>) => lay(DEPARTMENTS_COLUMNS.blocks, { filter }).blocks.map(({ heading }) => heading);
    expect(headings({})).toEqual(['North', 'South', 'No department', 'All departments, Apr to Oct 2024']);
    expect(headings({ department: ['South'] })).toEqual(['South', 'South, Apr to Oct 2024']);
    expect(headings({ department: ['North', ''] })).toEqual(['North', 'No department', 'North and No department, Apr to Oct 2024']);
    const channels = DEPARTMENTS_COLUMNS.blocks.map((each) => ({ ...each, repeat: { over: 'dimension' as const, dimension: 'channel' } }));
    expect(lay(channels, { dimensions: new Map([['channel', ['Shop']]]) }).blocks.at(-1)!.heading).toBe('All channels, Apr to Oct 2024');
  });
  it('past the most columns leave the oldest out and say how many', () => {
    const long = block([moving, { ...moving, key: 'b' }], { repeat: { over: 'months', last: 31 } });
    const wide = { ...long, columns: Array.from({ length: 12 }, (_, index) => ({ ...moving, key: `c${index}` })) };
    const { columns, blocks, issues } = lay([wide], { asOf: 30 as PeriodIndex });
    expect([columns.length, blocks[0]!.heading, blocks.at(-1)!.heading]).toEqual([MOST_COLUMNS, 'Mar 2024', 'Oct 2025']);
    expect(issues).toEqual([{ block: 'b', column: '', code: 'oldestLeftOut', token: '11 months' }]);
  });
});

describe('columns of balances', () => {
  const years: Column = { kind: 'amount', key: 'y', heading: 'Y', scenario: 'actual', span: { kind: 'fullYear', shift: { years: -1 } } };
  it('are balances at the end of their months, of a prior period where they lie before', () => {
    const { plan } = planStatement({
      lineSet: BALANCE_LINES,
      columnSet: {
        key: 'c',
        name: 'C',
        blocks: [block([moving, years, { ...moving, key: 'm', span: { kind: 'month', shift: { months: -1 } } }])],
      },
      chart,
      calendar,
      asOf: 18 as PeriodIndex,
    });
    const grid = evaluate(plan, () => sourceOf([sold(1)]), {});
    expect(plan.columns.map(({ index }) => columnWords(grid, index))).toEqual([
      'Actual, balance at the end of Oct 2024',
      'Actual, balance at the end of Mar 2024',
      'Actual, balance at the end of Sep 2024',
    ]);
    expect(plan.columns.map((column) => column.kind === 'amount' && column.isPriorPeriod)).toEqual([false, true, true]);
  });
  it('of income keep their months in words', () => {
    const { grid } = run({ postings: [sold(1)], lines: [sales], blocks: [block([{ ...years, span: { kind: 'yearToDate' } }])] });
    expect(columnWords(grid, 0)).toBe('Actual, Apr to Oct 2025');
  });
});
