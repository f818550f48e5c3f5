import { type CellDto, type GridDto, packedGridSchema } from '@wise-margin/contract';
import { DEFAULT_DISPLAY } from '@wise-margin/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { packGrid, unpackGrid } from './packed-grid.ts';
import { shownLines } from './shown-lines.ts';

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
