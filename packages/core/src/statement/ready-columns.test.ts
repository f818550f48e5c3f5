import { describe, expect, it } from 'vitest';
import type { Block } from './column-set.ts';
import { readyColumns } from './ready-columns.ts';
import { REVIEW_COLUMNS, TREND_COLUMNS } from './shipped/comparison-columns.ts';
import { EXPENSE_LINES } from './shipped/expense-lines.ts';
import { INCOME_LINES } from './shipped/income-lines.ts';

const wordsOf = (block: Block, lines = INCOME_LINES) => readyColumns(block, lines).map(({ words }) => words);

describe('ready columns', () => {
  it('are made from the block’s actual and budget, and from the totals of the lines', () => {
    const ready = readyColumns(REVIEW_COLUMNS.blocks[0]!, INCOME_LINES);
    expect(ready[0]).toEqual({
      words: 'Percent of budget reached',
      column: { kind: 'formula', key: 'budget_reached', heading: '% of budget', expression: 'actual / budget', result: 'percent' },
    });
    expect(ready[1]!.column).toMatchObject({ kind: 'share', of: 'actual', ownGroup: true });
    expect(ready.find(({ words }) => words === 'Percent of operating expenses')!.column).toMatchObject({ baseLine: 'operating_expenses' });
    expect(wordsOf(REVIEW_COLUMNS.blocks[0]!, EXPENSE_LINES)).toContain('Percent of total expenses');
  });
  it('of a budget reached need a budget; without amounts there are none', () => {
    expect(wordsOf(TREND_COLUMNS.blocks[0]!)).not.toContain('Percent of budget reached');
    expect(wordsOf({ ...TREND_COLUMNS.blocks[0]!, columns: [] })).toEqual([]);
  });
});
