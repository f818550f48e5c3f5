import { columnSchema, lineSchema } from '@wise-margin/contract';
import type { Column, ColumnSet, Line } from '@wise-margin/core';
import { describe, expect, it } from 'vitest';

import { COLUMN_KINDS, columnOfKind, withFollowingName } from './column-kinds.ts';
import { keyAfter, LINE_KINDS, lineOfKind, newLine } from './line-kinds.ts';

const columns: Column[] = [
  { kind: 'amount', key: 'x', heading: 'X', scenario: 'budget', span: { kind: 'yearToDate' }, hidden: true },
  { kind: 'difference', key: 'x', heading: 'X', compared: 'a', base: 'b', bar: true },
  { kind: 'formula', key: 'x', heading: 'X', expression: 'a - b', result: 'amount' },
];
const lines: Line[] = [
  {
    kind: 'accounts',
    key: 'x',
    name: 'X',
    selection: { accounts: ['4000'] },
    sign: 'debit',
    emphasis: 'bold',
    rule: { above: 'single', below: 'double' },
  },
  { kind: 'section', key: 'x', name: 'X', lines: [{ kind: 'spacer', key: 'y', name: '' }] },
  { kind: 'formula', key: 'x', name: 'X', expression: '1', result: 'percent', hidden: true, polarity: 'neutral' },
];

describe('a column turned into another kind', () => {
  it.each(COLUMN_KINDS.flatMap(([kind]) => columns.map((column) => [kind, column.kind, column] as const)))(
    '%s from %s is a whole column',
    (kind, _, column) => {
      const turned = columnOfKind(kind, column, [
        ['a', 'A'],
        ['b', 'B'],
      ]);
      expect(columnSchema.parse(turned)).toEqual(turned);
      expect(turned).toMatchObject({ kind, key: 'x', heading: 'X' });
      expect(turned.hidden ?? false).toBe(column.hidden ?? false);
    },
  );
  it('keeps what it compares between a difference and its percentage', () =>
    expect(columnOfKind('percentDifference', { ...columns[1]!, compared: 'q', base: 'p' } as Column, [])).toMatchObject({
      compared: 'q',
      base: 'p',
    }));
  it('refers to nothing when there is nothing else, not to itself', () => {
    expect(columnOfKind('share', columns[0]!, [])).toMatchObject({ of: '' });
    expect(columnOfKind('difference', columns[0]!, [['a', 'A']])).toMatchObject({ compared: 'a', base: '' });
  });
  it('starts a formula empty, under a fitting heading', () => {
    const plain: Column = { kind: 'amount', key: 'actual', heading: 'Actual', scenario: 'actual', span: { kind: 'month' } };
    expect(columnOfKind('formula', plain, [['a', 'A']])).toMatchObject({ expression: '', heading: 'Formula' });
    expect(columnOfKind('percentDifference', plain, [])).toMatchObject({ heading: '%' });
    expect(columnOfKind('formula', { ...plain, heading: 'Tours' }, [])).toMatchObject({ heading: 'Tours' });
  });
  it('takes its formula name along with its heading, and so do those that refer to it', () => {
    const actual: Column = { kind: 'amount', key: 'actual', heading: 'Actual', scenario: 'actual', span: { kind: 'month' } };
    const set: ColumnSet = {
      key: 'c',
      name: 'C',
      blocks: [
        {
          key: 'b',
          heading: '',
          span: { kind: 'month' },
          columns: [actual, { kind: 'difference', key: 'variance', heading: 'Variance', compared: 'actual', base: 'actual' }],
        },
      ],
    };
    const renamed = withFollowingName(set, { block: 'b', column: 'actual' }, { before: actual, after: { ...actual, heading: 'Tours' } });
    expect(renamed.column).toBe('tours');
    expect(renamed.set.blocks[0]!.columns).toMatchObject([{ key: 'tours' }, { compared: 'tours', base: 'tours' }]);
  });
});

const EXPENSES: Line = {
  kind: 'section',
  key: 's',
  name: 'Expenses',
  lines: [{ kind: 'accounts', key: 'rent', name: 'Rent', selection: { accounts: ['6110'] }, sign: 'debit' }],
};

describe('a new line', () => {
  it('that is a total shows positive on the side of its section', () => {
    expect(newLine('total', { section: EXPENSES })).toMatchObject({ of: 's' });
    expect(newLine('total', { section: null })).not.toHaveProperty('sign');
  });
  it.each(LINE_KINDS)('of %s is a whole line under a fitting name', (kind) => {
    const line = newLine(kind, { section: EXPENSES });
    expect(lineSchema.parse(line)).toEqual(line);
    expect(line.kind).toBe(kind);
    expect(line.name !== '' || kind === 'spacer').toBe(true);
  });
});

describe('a line turned into another kind', () => {
  it.each(LINE_KINDS.flatMap(([kind]) => lines.map((line) => [kind, line.kind, line] as const)))(
    '%s from %s is a whole line',
    (kind, _, line) => {
      const turned = lineOfKind(kind, line, { section: EXPENSES });
      expect(lineSchema.parse(turned)).toEqual(turned);
      expect(turned).toMatchObject({ kind, key: 'x', name: 'X' });
      expect([turned.emphasis, turned.rule, turned.hidden]).toEqual([line.emphasis, line.rule, line.hidden]);
    },
  );
  it('keeps its accounts among the kinds that have some, and its lines as a section', () => {
    expect(lineOfKind('breakOut', lines[0]!, { section: null })).toMatchObject({
      selection: { accounts: ['4000'] },
      sign: 'debit',
      by: 'account',
    });
    expect(lineOfKind('section', lines[1]!, { section: null })).toMatchObject({ lines: [{ key: 'y' }] });
  });
  it('takes its formula name from its name', () => {
    const line: Line = { kind: 'formula', key: 'formula', name: 'Formula', expression: '', result: 'amount' };
    expect(keyAfter(line, { ...line, name: 'EBITDA' }, ['formula', 'revenue'])).toBe('ebitda');
    expect(keyAfter({ ...line, key: 'x' }, { ...line, name: 'EBITDA' }, [])).toBe('x');
  });
});
