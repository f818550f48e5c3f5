import { describe, expect, it } from 'vitest';

import type { Column, ColumnSet } from './column-set.ts';
import { findLine, indentLine, moveToSection, outdentLine, sectionOf, walkLines } from './edit-lines.ts';
import type { Line, LineSet } from './line-set.ts';
import { INCOME_LINES } from './shipped/income-lines.ts';
import { SHIPPED_VIEWS } from './shipped/views.ts';
import { actual, block, run, sales, sold } from './small-books.ts';
import {
  hideLine,
  removeBlockAndUses,
  removeColumnAndUses,
  removeLineAndUses,
  usesOfBlock,
  usesOfColumn,
  usesOfLine,
  type ViewSets,
} from './uses.ts';

const keys = (set: LineSet): string[] => {
  const found: string[] = [];
  walkLines(set.lines, ({ key }) => found.push(key));
  return found;
};
const costs: Line = { kind: 'accounts', key: 'costs', name: 'Costs', selection: { classes: ['costOfSales'] }, sign: 'debit' };
const formula = (key: string, name: string, expression: string): Line => ({ kind: 'formula', key, name, expression, result: 'amount' });
const variance: Column = { kind: 'difference', key: 'variance', heading: 'Variance', compared: 'actual', base: 'budget' };
const percent: Column = { kind: 'percentDifference', key: 'percent', heading: '%', compared: 'actual', base: 'budget' };
const budget: Column = { ...actual, key: 'budget', heading: 'Budget', scenario: 'budget' } as Column;
const sets: ViewSets = {
  lineSet: {
    key: 'v',
    name: 'V',
    percentBase: 'sales',
    lines: [
      { kind: 'section', key: 'trading', name: 'Trading', lines: [sales, { ...costs, percentOf: 'sales' } as Line] },
      formula('gross', 'Gross profit', 'sales - costs'),
      formula('double', 'Twice gross profit', 'gross * 2'),
      { kind: 'total', key: 'all', name: 'All trading', of: 'trading', sign: 'credit' },
    ],
  },
  columnSet: {
    key: 'c',
    name: 'C',
    blocks: [
      block([actual, budget, variance, percent], { key: 'month' }),
      block(
        [
          { kind: 'share', key: 'of_sales', heading: '% of sales', of: 'month.actual', baseLine: 'sales' },
          { kind: 'formula', key: 'twice', heading: 'Twice', expression: 'month.variance * 2', result: 'amount' },
        ],
        { key: 'more' },
      ),
    ],
  },
};
const names = (uses: readonly { readonly name: string }[]) => uses.map(({ name }) => name);

describe('what uses a line', () => {
  it('is every formula, total and percentage column that reads it', () => {
    expect(names(usesOfLine(sets, 'sales'))).toEqual(['Gross profit', '% of sales']);
    expect(names(usesOfLine(sets, 'trading'))).toEqual(['Gross profit', 'All trading', '% of sales']);
    expect(usesOfLine(sets, 'double')).toEqual([]);
    expect(usesOfLine(sets, 'absent')).toEqual([]);
  });
  it('is a formula that reads one of the lines it is laid out into', () => {
    const lineSet: LineSet = {
      key: 'g',
      name: 'G',
      lines: [{ ...costs, kind: 'groups', key: 'costs', name: '' } as Line, formula('one', 'One', 'costs.materials + 1')],
    };
    expect(names(usesOfLine({ lineSet, columnSet: sets.columnSet }, 'costs'))).toEqual(['One']);
  });
  it('goes with it, and so does what uses that in turn; percentages of it lose their base', () => {
    const { lineSet, columnSet } = removeLineAndUses(sets, 'sales');
    expect(keys(lineSet)).toEqual(['trading', 'costs', 'all']);
    expect(lineSet.percentBase).toBeUndefined();
    expect(findLine(lineSet, 'costs')).not.toHaveProperty('percentOf');
    expect(columnSet.blocks[1]!.columns.map(({ key }) => key)).toEqual(['twice']);
  });
  it('keeps its values when the line is hidden instead', () => {
    const postings = [sold(1200)];
    const shown = run({ postings, lineSet: sets.lineSet, blocks: [block([actual])] });
    const hidden = run({ postings, lineSet: hideLine(sets.lineSet, 'trading'), blocks: [block([actual])] });
    expect(hidden.issues).toEqual([]);
    for (const key of ['gross', 'double', 'all']) expect([key, hidden.value(key, 'b.actual')]).toEqual([key, shown.value(key, 'b.actual')]);
    expect(hidden.plan.lines.filter((line) => !line.hidden).map(({ key }) => key)).toEqual(['gross', 'double', 'all']);
  });
});

describe('what uses a column', () => {
  it('is in its block and in others', () => {
    expect(names(usesOfColumn(sets.columnSet, { block: 'month', column: 'actual' }))).toEqual(['Variance', '%', '% of sales']);
    expect(names(usesOfColumn(sets.columnSet, { block: 'month', column: 'percent' }))).toEqual([]);
    expect(names(usesOfBlock(sets.columnSet, 'month'))).toEqual(['% of sales', 'Twice']);
  });
  it('goes with it', () => {
    const left = (set: ColumnSet) => set.blocks.map(({ columns }) => columns.map(({ key }) => key));
    expect(left(removeColumnAndUses(sets.columnSet, { block: 'month', column: 'budget' }))).toEqual([['actual'], ['of_sales']]);
    expect(left(removeBlockAndUses(sets.columnSet, 'month'))).toEqual([[]]);
  });
});

describe('no built-in view refers to what was removed from it', () => {
  const dangling = (view: ViewSets): string[] =>
    run({ lineSet: view.lineSet, blocks: view.columnSet.blocks })
      .issues.filter(({ code }) => ['unknownLine', 'unknownSection', 'unknownColumn', 'circular'].includes(code))
      .map(({ code, token }) => `${code} ${token}`);
  it.each(SHIPPED_VIEWS.map(({ key, lineSet, columnSet }) => ({ key, lineSet, columnSet })))('$key', (view) => {
    const before = dangling(view);
    for (const key of keys(view.lineSet)) expect([key, dangling(removeLineAndUses(view, key))]).toEqual([key, before]);
    for (const { key, columns } of view.columnSet.blocks) {
      const withoutBlock = { ...view, columnSet: removeBlockAndUses(view.columnSet, key) };
      expect([key, dangling(withoutBlock)]).toEqual([key, before]);
      for (const column of columns) {
        const columnSet = removeColumnAndUses(view.columnSet, { block: key, column: column.key });
        expect([key, column.key, dangling({ ...view, columnSet })]).toEqual([key, column.key, before]);
      }
    }
  });
});

describe('a line and its section', () => {
  const { lineSet } = sets;
  it('goes into the section above, or else the one below, and comes out after it', () => {
    const into = indentLine(lineSet, 'gross');
    expect(sectionOf(into, 'gross')).toBe('trading');
    expect(keys(into).slice(0, 4)).toEqual(['trading', 'sales', 'costs', 'gross']);
    expect(keys(outdentLine(into, 'gross'))).toEqual(keys(lineSet));
    const first = moveToSection(outdentLine(lineSet, 'sales'), 'trading', null);
    expect(keys(indentLine(first, 'all'))).toEqual(['sales', 'gross', 'double', 'trading', 'all', 'costs']);
  });
  it('stays where there is no section, and a section does not go into itself', () => {
    expect(indentLine(lineSet, 'double')).toBe(lineSet);
    expect(outdentLine(lineSet, 'gross')).toBe(lineSet);
    expect(moveToSection(lineSet, 'trading', 'trading')).toBe(lineSet);
  });
  it('goes to any section, or to the top', () => {
    expect(sectionOf(moveToSection(lineSet, 'double', 'trading'), 'double')).toBe('trading');
    expect(sectionOf(moveToSection(lineSet, 'sales', null), 'sales')).toBeNull();
    expect(keys(moveToSection(INCOME_LINES, 'revenue', null)).at(-1)).toBe('revenue');
  });
});

describe('what is added and not filled in yet', () => {
  it('shows nothing and is named as unfinished', () => {
    const empty: Column = { kind: 'formula', key: 'f', heading: 'Formula', expression: ' ', result: 'amount' };
    const open: Column = { ...variance, compared: '', base: '' } as Column;
    const { issues } = run({ lines: [sales, formula('later', 'Later', '')], blocks: [block([actual, empty, open])] });
    expect(issues.map(({ code, token }) => `${code} ${token}`)).toEqual(['unfinished Later', 'unfinished Formula', 'unfinished Variance']);
  });
});
