import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { cellDrillDown } from './cell-drill-down.ts';
import type { Column } from './column-set.ts';
import type { StatementGrid } from './evaluate.ts';
import { BALANCE_LINES } from './shipped/balance-lines.ts';
import { CASH_FLOW_LINES } from './shipped/cash-flow-lines.ts';
import { actual, block, month, type Posting, run, sold } from './small-books.ts';

describe('balance sheet and cash flows', () => {
  const kinds = fc.constantFrom(
    ...([
      ['1000', '4000'],
      ['1100', '4000'],
      ['1000', '1100'],
      ['6000', '1000'],
      ['6000', '2000'],
      ['2000', '1000'],
      ['1500', '1000'],
      ['6800', '1590'],
      ['1000', '2500'],
      ['1000', '3000'],
      ['3200', '1000'],
      ['3300', '1000'],
    ] as const),
  );
  const postings = fc.array(
    fc.record({
      kind: kinds,
      year: fc.integer({ min: 2024, max: 2026 }),
      month: fc.integer({ min: 1, max: 13 }),
      amount: fc.integer({ min: 1, max: 90_000 }),
    }),
    { maxLength: 40 },
  );
  const closings = fc.array(fc.record({ year: fc.integer({ min: 2024, max: 2025 }), amount: fc.integer({ min: -900, max: 900 }) }), {
    maxLength: 3,
  });
  const amounts = (grid: StatementGrid, line: string): number[] =>
    grid.plan.columns.map(({ index }) => {
      const cell = grid.cells[grid.plan.lineOfKey.get(line)!]![index]!;
      return cell.kind === 'amount' ? cell.value : NaN;
    });
  const closing: Column = { kind: 'amount', key: 'balance', heading: '', scenario: 'actual', span: month, measure: 'closing' };
  const flows = (['month', 'yearToDate', 'trailingTwelve'] as const).map(
    (kind): Column => ({ ...actual, key: kind, span: { kind } }) as Column,
  );
  const all = (
    rows: readonly { kind: readonly [string, string]; year: number; month: number; amount: number }[],
    closed: readonly { year: number; amount: number }[],
  ): Posting[] => [
    ...rows.map(({ kind: [to, from], year, month: number, amount }) => ({ to, from, year, month: number, amount })),
    ...closed.map(({ year, amount }) => ({ to: '4000', from: '3200', year, month: 13, amount, closing: true })),
  ];
  it('balance at every month end, whether or not years were closed', () =>
    fc.assert(
      fc.property(postings, closings, (rows, closed) => {
        const { grid } = run({
          postings: all(rows, closed),
          lineSet: BALANCE_LINES,
          blocks: [block([closing], { repeat: { over: 'months', last: 36 } })],
          asOf: '2026-03',
        });
        expect(amounts(grid, 'out_of_balance')).toEqual(new Array(36).fill(0));
      }),
      { numRuns: 40 },
    ));
  it('explain the whole change of cash over every span', () =>
    fc.assert(
      fc.property(postings, closings, fc.constantFrom('2025-03', '2025-04', '2025-10', '2026-03'), (rows, closed, asOf) => {
        const { grid } = run({ postings: all(rows, closed), lineSet: CASH_FLOW_LINES, blocks: [block(flows)], asOf });
        expect(amounts(grid, 'unexplained')).toEqual([0, 0, 0]);
      }),
      { numRuns: 60 },
    ));
  it('show dividends of this year alone, and those of earlier years in retained earnings', () => {
    const paid = (amount: number, year: number): Posting => ({ to: '3300', from: '1000', year, month: 5, amount });
    const { value, grid, plan } = run({
      postings: [sold(100, 3, undefined, 2025), paid(30, 2025), paid(8, 2026)],
      lineSet: BALANCE_LINES,
      blocks: [block([closing])],
    });
    expect([value('retained_earnings', 'b.balance'), value('dividend_lines.account_3300', 'b.balance')]).toEqual([70, -8]);
    expect(value('out_of_balance', 'b.balance')).toBe(0);
    expect(cellDrillDown(grid, plan.lineOfKey.get('dividend_lines.account_3300')!, 0)).toMatchObject({ kind: 'accounts', sum: -8 });
    expect(cellDrillDown(grid, plan.lineOfKey.get('earlier_dividends')!, 0)).toMatchObject({ kind: 'accounts', sum: -30 });
  });
  it('show this year’s result apart and those before it in retained earnings', () => {
    const { value, grid, plan } = run({
      postings: [sold(100, 3, undefined, 2025), sold(40, 6)],
      lineSet: BALANCE_LINES,
      blocks: [block([closing])],
    });
    expect([value('retained_earnings', 'b.balance'), value('result_of_the_year', 'b.balance')]).toEqual([100, 40]);
    expect(cellDrillDown(grid, plan.lineOfKey.get('result_of_the_year')!, 0)).toMatchObject({ kind: 'accounts', sum: 40 });
  });
});
