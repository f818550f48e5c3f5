import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { cellDrillDown } from './cell-drill-down.ts';
import type { StatementGrid } from './evaluate.ts';
import { footGrid } from './foot.ts';
import type { Line } from './line-set.ts';
import { BALANCE_LINES } from './shipped/balance-lines.ts';
import { INCOME_LINES } from './shipped/income-lines.ts';
import { actual, block, type Posting, run, sold } from './small-books.ts';

const STEP = 100_000;
const accountLine = (key: string, number: string, sign: 'debit' | 'credit'): Line => ({
  kind: 'accounts',
  key,
  name: key,
  selection: { accounts: [number] },
  sign,
});
const valueAt = (grid: StatementGrid, line: string, column = 0): number => {
  const cell = grid.cells[grid.plan.lineOfKey.get(line)!]![column]!;
  return cell.kind === 'amount' ? cell.value : NaN;
};
const post = (to: string, from: string, amount: number): Posting => ({ to, from, year: 2026, month: 7, amount });
const journal = fc.array(
  fc.record({
    to: fc.constantFrom('1000', '1100', '1500', '6000', '6800', '2000'),
    from: fc.constantFrom('1000', '2000', '2500', '3000', '4000', '1590'),
    amount: fc.integer({ min: -900_000_000, max: 900_000_000 }),
  }),
  { minLength: 1, maxLength: 12 },
);

describe('rounded figures that foot', () => {
  it('give the units left over to the largest remainders, ties to the first', () => {
    const lines: Line[] = [
      {
        kind: 'section',
        key: 'costs',
        name: 'Costs',
        lines: [
          accountLine('cash', '1000', 'debit'),
          accountLine('receivables', '1100', 'debit'),
          accountLine('plant', '1500', 'debit'),
          { kind: 'total', key: 'assets', name: 'Assets', of: 'costs', sign: 'debit' },
        ],
      },
    ];
    const third = [post('1000', '3000', 133_400), post('1100', '3000', 133_300), post('1500', '3000', 133_300)];
    const { grid } = run({ postings: third, lines, blocks: [block([actual])] });
    const footed = footGrid(grid, STEP);
    expect(['cash', 'receivables', 'plant', 'assets'].map((key) => valueAt(footed, key))).toEqual([200_000, 100_000, 100_000, 400_000]);
    expect(['cash', 'receivables', 'plant', 'assets'].map((key) => valueAt(grid, key))).toEqual([133_400, 133_300, 133_300, 400_000]);
  });

  it('are what they were when nothing is rounded', () => {
    const { grid } = run({ postings: [sold(123)], lines: [accountLine('sales', '4000', 'credit')], blocks: [block([actual])] });
    expect(footGrid(grid, 1)).toBe(grid);
  });

  it.each([
    ['income statement', INCOME_LINES],
    ['balance sheet', BALANCE_LINES],
  ])('foot everywhere in the %s, each within a step of its exact figure', (_, lineSet) =>
    fc.assert(
      fc.property(journal, (posted) => {
        const budgetless = { kind: 'amount', key: 'before', heading: 'B', scenario: 'actual', span: { kind: 'yearToDate' } } as const;
        const difference = { kind: 'difference', key: 'd', heading: 'D', compared: 'actual', base: 'before' } as const;
        const postings = [...posted.map(({ to, from, amount }) => post(to, from, amount)), { ...post('1000', '4000', 77_777), month: 3 }];
        const { grid } = run({ postings, lineSet, blocks: [block([actual, budgetless, difference])] });
        const footed = footGrid(grid, STEP);
        const { plan } = grid;
        for (const column of [0, 1, 2]) {
          for (const line of plan.lines) {
            const cell = footed.cells[line.index]![column]!;
            if (cell.kind !== 'amount') continue;
            expect(Math.abs(cell.value % STEP)).toBe(0);
            const from = line.source;
            const shown = (index: number): number => {
              const each = footed.cells[index]![column]!;
              return each.kind === 'amount' ? each.value : 0;
            };
            if (from.kind === 'members') {
              const sum = from.lines.reduce((total, index) => total + line.sign * plan.lines[index]!.sign * shown(index), 0);
              expect(cell.value + 0).toBe(sum + 0);
            }
            const opened = plan.lines.filter(({ parent, kind }) => parent === line.index && kind === 'account');
            if (opened.length > 0) expect(opened.reduce((total, { index }) => total + shown(index), 0) + 0).toBe(cell.value + 0);
            const drillDown = cellDrillDown(grid, line.index, 2);
            if (column === 2 && drillDown.kind === 'cells') {
              const [compared, base] = drillDown.parts.map((part) => footed.cells[part.line]![part.column]!);
              if (compared?.kind === 'amount' && base?.kind === 'amount') expect(cell.value).toBe(compared.value - base.value);
            }
          }
        }
      }),
      { numRuns: 60, seed: 7 },
    ),
  );

  it('keep to the rounded total where one line alone holds it', () =>
    fc.assert(
      fc.property(journal, (posted) => {
        const { grid } = run({
          postings: posted.map(({ to, from, amount }) => post(to, from, amount)),
          lineSet: BALANCE_LINES,
          blocks: [block([actual])],
        });
        const footed = footGrid(grid, STEP);
        for (const line of grid.plan.lines) {
          const exact = grid.cells[line.index]![0]!;
          if (exact.kind !== 'amount') continue;
          expect(Math.abs(valueAt(footed, line.key) - exact.value)).toBeLessThan(2 * STEP);
        }
        expect(valueAt(footed, 'total_assets')).toBe(valueAt(footed, 'liabilities_and_equity'));
      }),
      { numRuns: 60, seed: 11 },
    ));
});
