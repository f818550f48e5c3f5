import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { DEFAULT_DISPLAY, type AmountIssue, type ImportIssueCode } from '@wise-margin/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  cellReasonWords,
  filterQuerySchema,
  importIssueWords,
  newBudgetSchema,
  newCompanySchema,
  packGrid,
  packedGridSchema,
  shownLines,
  statementQuerySchema,
  unpackGrid,
  type CellDto,
  type GridDto,
} from './index.ts';

const unionOf = (file: string, type: string): string[] => {
  const source = readFileSync(fileURLToPath(new URL(`../../core/src/${file}`, import.meta.url)), 'utf8');
  const body = new RegExp(`type ${type}\\s*=([^;]+);`).exec(source)![1]!;
  return [...body.matchAll(/'(\w+)'/g)].map(([, code]) => code!);
};

describe('every code has its words', () => {
  it.each(unionOf('ledger/import-issue.ts', 'ImportIssueCode'))('import issue %s', (code) => {
    const { reason, fix } = importIssueWords({ file: 'ledger', row: 2, column: 'debit', text: 'x', code: code as ImportIssueCode });
    expect(reason.length).toBeGreaterThan(10);
    expect(fix.length).toBeGreaterThan(5);
  });
  it.each([
    'empty',
    'thousandsSeparator',
    'parentheses',
    'trailingMinus',
    'currencySign',
    'exponentNotation',
    'tooManyDecimals',
    'decimalComma',
    'tooLarge',
    'notANumber',
  ] as const)('amount %s', (code) => {
    const amount: AmountIssue = { code, suggestion: '-5.00', decimals: 2 };
    const { fix } = importIssueWords({ file: 'ledger', row: 2, column: 'credit', text: 'x', code: 'badAmount', amount });
    // a negative is never advised where it would be refused again
    expect(fix).not.toContain('-5');
  });
  it.each(unionOf('statement/cell.ts', 'BlankReason').filter((code) => code !== 'noLine'))('blank cell %s', (reason) =>
    expect(cellReasonWords({ kind: 'blank', reason })).not.toBe(''),
  );
  it.each(unionOf('statement/cell.ts', 'NotMeaningfulReason'))('n/m cell %s', (reason) =>
    expect(cellReasonWords({ kind: 'notMeaningful', reason })).toContain('Not meaningful'),
  );
});

describe('requests', () => {
  it('a filter is JSON of values by dimension, and anything else is told', () => {
    expect(filterQuerySchema.parse('{"department":["Tours",""]}')).toEqual({ department: ['Tours', ''] });
    expect(filterQuerySchema.parse(undefined)).toEqual({});
    for (const bad of ['[', '[1]', '{"a":"b"}', '5'])
      expect(filterQuerySchema.safeParse(bad).error!.issues[0]!.message).toContain('as JSON');
  });
  it('percentages come with or without their sign, as text', () => {
    const read = (change: string) => newBudgetSchema.safeParse({ name: 'n', year: 2027, from: 2026, change });
    expect(['3', '3%', '3 %', '-1.25', '+2'].map((text) => read(text).data?.change)).toEqual(['3', '3', '3', '-1.25', '+2']);
    for (const bad of ['', 'x', '1e3', '3,5', '99999']) expect(read(bad).success).toBe(false);
  });
  it('a company needs a name, a currency and a month', () => {
    expect(newCompanySchema.parse({ name: ' Shop ', currency: 'usd', startMonth: '4' })).toEqual({
      name: 'Shop',
      currency: 'USD',
      startMonth: 4,
      hasAdjustmentPeriod: false,
    });
    expect(newCompanySchema.safeParse({ name: '', currency: 'dollar', startMonth: 0 }).error!.issues.map(({ path }) => path[0])).toEqual([
      'name',
      'currency',
      'startMonth',
    ]);
  });
  it('a statement is asked for by month', () => {
    expect(statementQuerySchema.parse({ asOf: '2026-10' })).toMatchObject({ asOf: '2026-10', filter: {} });
    expect(statementQuerySchema.safeParse({ asOf: 'October' }).success).toBe(false);
  });
});

describe('lines in view', () => {
  const line = (key: string, kind: GridDto['lines'][number]['kind'], parent: string | null, isZero = false) => ({
    key,
    name: key,
    kind,
    parent,
    depth: 0,
    account: null,
    emphasis: null,
    rule: null,
    isZero,
  });
  const grid = {
    lines: [
      line('s', 'section', null),
      line('s.a', 'accounts', 's'),
      line('s.a.1', 'account', 's.a'),
      line('s.a.2', 'account', 's.a', true),
      line('s.total', 'total', 's'),
      line('t', 'section', null),
      line('t.a', 'accounts', 't', true),
      line('t.a.1', 'account', 't.a', true),
    ],
  } as unknown as GridDto;
  const keys = (open: ReadonlySet<string> | 'all', hideZero: boolean) =>
    shownLines(grid, { open, hideZero }).map(({ line: each }) => each.key);
  it('holds accounts back until their line is opened', () => {
    expect(keys(new Set(), false)).toEqual(['s', 's.a', 's.total', 't', 't.a']);
    expect(keys(new Set(['s.a']), false)).toEqual(['s', 's.a', 's.a.1', 's.a.2', 's.total', 't', 't.a']);
    expect(keys('all', false)).toHaveLength(8);
  });
  it('leaves out zero lines and sections without any other', () => {
    expect(keys('all', true)).toEqual(['s', 's.a', 's.a.1', 's.total']);
    expect(shownLines(grid, { open: 'all', hideZero: true }).map(({ canOpen }) => canOpen)).toEqual([false, true, false, false]);
  });
});

describe('a grid on the wire', () => {
  const cell: fc.Arbitrary<CellDto> = fc.oneof(
    fc.record({ kind: fc.constant('amount' as const), value: fc.integer() }),
    fc.record({ kind: fc.constant('amount' as const), value: fc.integer(), favor: fc.constantFrom('F' as const, 'U' as const) }),
    fc.record({ kind: fc.constant('quantity' as const), value: fc.integer() }),
    fc.record({
      kind: fc.constant('ratio' as const),
      value: fc.double({ noNaN: true, noDefaultInfinity: true }).map((value) => value + 0),
      unit: fc.constantFrom('percent' as const, 'points' as const, 'times' as const, 'days' as const),
    }),
    fc.record({ kind: fc.constant('notMeaningful' as const), reason: fc.constantFrom('zeroBase', 'fromNotMeaningful') }),
    fc.record({ kind: fc.constant('blank' as const), reason: fc.constantFrom('notYetPosted', 'bothZero') }),
  );
  const view = { key: '', name: '', note: '', openAll: false };
  const head = {
    view,
    asOf: '2026-10',
    asOfWords: '',
    budgetWords: '',
    percentBase: '',
    filter: {},
    accounts: '',
    drafts: false,
    display: DEFAULT_DISPLAY,
    head: { title: '', subtitle: '', footnotes: [] },
    issues: [],
    blocks: [],
    columns: [],
    lines: [],
  };
  it('gives back every cell as it was, through JSON', () => {
    fc.assert(
      fc.property(fc.array(fc.array(cell, { minLength: 3, maxLength: 3 }), { maxLength: 8 }), (cells) => {
        const wire = packedGridSchema.parse(JSON.parse(JSON.stringify(packGrid({ ...head, cells }))));
        expect(unpackGrid(wire).cells).toEqual(JSON.parse(JSON.stringify(cells)));
      }),
    );
  });
  it('names each kind of cell once', () => {
    const cells: CellDto[][] = [
      [
        { kind: 'amount', value: 1 },
        { kind: 'amount', value: 2 },
        { kind: 'amount', value: 3, favor: 'F' },
      ],
    ];
    expect(packGrid({ ...head, cells })).toMatchObject({
      shapes: [{ kind: 'amount' }, { kind: 'amount', favor: 'F' }],
      rows: [{ shapes: [0, 0, 1], values: [1, 2, 3] }],
    });
  });
});
