import { describe, expect, it } from 'vitest';

import type { Block } from './column-set.ts';
import type { Line } from './line-set.ts';
import { readyColumns } from './ready-columns.ts';
import { REVIEW_COLUMNS, TREND_COLUMNS } from './shipped/comparison-columns.ts';
import { EXPENSE_LINES } from './shipped/expense-lines.ts';
import { INCOME_LINES } from './shipped/income-lines.ts';
import { actual, block, run, sales, sold } from './small-books.ts';

const wordsOf = (block: Block, lines = INCOME_LINES) => readyColumns(block, lines).map(({ words }) => words);

describe('ready columns', () => {
  it('are made from the block’s actual and budget, and from the totals of the lines', () => {
    const ready = readyColumns(REVIEW_COLUMNS.blocks[0]!, INCOME_LINES);
    expect(
      ready
        .slice(0, 4)
        .map(({ words, column }) => [words, column.kind === 'difference' || column.kind === 'percentDifference' ? column.base : '']),
    ).toEqual([
      ['Variance to budget', 'budget'],
      ['Percentage variance to budget', 'budget'],
      ['Variance to prior year', 'prior'],
      ['Percentage variance to prior year', 'prior'],
    ]);
    expect(ready[4]).toEqual({
      words: 'Percent of budget reached',
      column: { kind: 'formula', key: 'budget_reached', heading: '% of budget', expression: 'actual / budget', result: 'percent' },
    });
    expect(ready[5]!.column).toMatchObject({ kind: 'share', of: 'actual', ownGroup: true });
    expect(ready.find(({ words }) => words === 'Percent of operating expenses')!.column).toMatchObject({ baseLine: 'operating_expenses' });
    expect(wordsOf(REVIEW_COLUMNS.blocks[0]!, EXPENSE_LINES)).toContain('Percent of total expenses');
  });
  it('of a budget reached need a budget; without amounts there are none', () => {
    expect(wordsOf(TREND_COLUMNS.blocks[0]!)).not.toContain('Percent of budget reached');
    expect(wordsOf({ ...TREND_COLUMNS.blocks[0]!, columns: [] })).toEqual([]);
  });
  it('in a repeat are percents of the row’s total and of the grand total, read in the total of the repeat', () => {
    const months: Block = block([actual], { repeat: { over: 'months', last: 2 }, total: { heading: 'Total' } });
    const ready = readyColumns(months, { key: 't', name: 'T', percentBase: 'sales', lines: [sales] });
    const [row, all] = ready.filter(({ needsTotal }) => needsTotal);
    expect([row!.words, all!.words]).toEqual(['Percent of the row’s total', 'Percent of the grand total']);
    const withoutBase = readyColumns(months, { key: 't', name: 'T', lines: [sales] });
    expect(withoutBase.filter(({ needsTotal }) => needsTotal)).toHaveLength(1);
    const half: Line = { kind: 'formula', key: 'half', name: 'Half', expression: 'sales / 2', result: 'amount' };
    const { value, issues } = run({
      postings: [sold(300, 6), sold(100, 7)],
      lines: [sales, half],
      blocks: [{ ...months, columns: [actual, row!.column, all!.column] }],
    });
    expect(issues).toEqual([]);
    const at = (part: string) => ['sales', 'half'].map((line) => [value(line, `b.${part}.of_row`), value(line, `b.${part}.of_all`)]);
    expect(at('2025-09')).toEqual([
      [0.75, 0.75],
      [0.75, 0.375],
    ]);
    expect(at('2025-10')).toEqual([
      [0.25, 0.25],
      [0.25, 0.125],
    ]);
    expect(at('total')).toEqual([
      [1, 1],
      [1, 0.5],
    ]);
  });
});
