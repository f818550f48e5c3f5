import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import type { Minor } from '../money/minor.ts';
import type { Line } from '../statements/line-set.ts';
import { run, sales, sold } from '../statements/small-books.ts';
import { COMPARISONS, findingColumns } from './finding-columns.ts';
import { factorsIn, linePartsOf } from './line-parts.ts';
import { materialVariances } from './material-variances.ts';
import type { Limit, Materiality } from './materiality.ts';

const expenses: Line = {
  kind: 'accounts',
  key: 'expenses',
  name: 'Expenses',
  selection: { classes: ['operatingExpenses'] },
  sign: 'debit',
  polarity: 'lowerIsBetter',
};
const depreciation: Line = { ...expenses, key: 'depreciation', name: 'Depreciation', selection: { classes: ['depreciation'] } };
const total: Line = { kind: 'total', key: 'costs', name: 'Costs', of: 'section', sign: 'debit', polarity: 'lowerIsBetter' };
const lines: readonly Line[] = [
  { ...sales, polarity: 'higherIsBetter' },
  { kind: 'section', key: 'section', name: 'Costs', lines: [expenses, depreciation, total] },
  {
    kind: 'formula',
    key: 'operating_income',
    name: 'Operating income',
    expression: 'sales - costs',
    result: 'amount',
    polarity: 'higherIsBetter',
  },
  { kind: 'formula', key: 'margin', name: 'Margin', expression: 'operating_income / sales', result: 'percent' },
];
const paid = (to: string, amount: number, month = 7) => ({ to, from: '1000', year: 2026, month, amount });
const limit = (amount: number): Limit => ({ amount: amount as Minor, percent: null, passes: 'either', least: 0 as Minor });
const materiality = (amount: number): Materiality => ({ month: limit(amount), yearToDate: limit(amount), overrides: [] });

/** What is past a limit in October 2025 against the month before. */
function found(postings: Parameters<typeof run>[0]['postings'], amount: number) {
  const { grid } = run({ lines, postings: postings!, blocks: findingColumns('priorMonth').blocks });
  const column = (key: string) => grid.plan.columns.findIndex((each) => each.key === `month.${key}`);
  const columns = { compared: column('compared'), base: column('base') };
  return {
    grid,
    variances: materialVariances(grid, { columns, span: 'month', view: 'income', materiality: materiality(amount) }).map(
      ({ line, variance, unexplained, effect }) => ({ line: grid.plan.lines[line]!.key, variance, unexplained, effect }),
    ),
  };
}

describe('variances past a limit', () => {
  it('stand by their effect on operating income: more expense lowers it, more revenue raises it', () =>
    expect(found([sold(1000), paid('6000', 900)], 100).variances).toEqual([
      { line: 'sales', variance: 1000, unexplained: 1000, effect: 1000 },
      { line: 'expenses', variance: 900, unexplained: 900, effect: -900 },
    ]));
  it('of a subtotal are those its lines leave unexplained', () =>
    expect(found([paid('6000', 80), paid('6800', 70)], 100).variances).toEqual([
      { line: 'costs', variance: 150, unexplained: 150, effect: -150 },
    ]));
  it('of a subtotal are none where a line explains it, or lines outweigh one another', () => {
    expect(found([paid('6000', 500), paid('6800', 70)], 100).variances.map(({ line }) => line)).toEqual(['expenses']);
    expect(found([paid('6000', 80), paid('6000', 80, 6), paid('6800', 20)], 100).variances).toEqual([]);
  });
  it('are none of ratios, and none at all in a month like the one before', () =>
    expect(found([sold(1000), sold(1000, 6), paid('6000', 500), paid('6000', 500, 6)], 1).variances).toEqual([]));
  it('never count an amount twice: findings and what they leave add up to operating income', () =>
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -5000, max: 5000 }), { minLength: 3, maxLength: 3 }),
        fc.integer({ min: 1, max: 4000 }),
        ([a, b, c], amount) => {
          const { grid, variances } = found([sold(a!), paid('6000', b!), paid('6800', c!)], amount);
          const column = grid.plan.columns.findIndex(({ key }) => key === 'month.variance');
          const cell = grid.cells[grid.plan.lineOfKey.get('operating_income')!]![column]!;
          const whole = cell.kind === 'amount' ? cell.value : 0;
          const explained = variances.reduce((sum, { effect }) => sum + effect, 0);
          // what no finding explains is within the limits of the lines and subtotals there are
          expect(Math.abs(whole - explained)).toBeLessThan(5 * amount);
          if (variances.some(({ line }) => line === 'operating_income')) expect(explained).toBe(whole);
        },
      ),
    ));
});

it('a subtotal is followed to its lines with their signs; a ratio is no sum of lines', () => {
  const { plan } = run({ lines, blocks: findingColumns('priorMonth').blocks });
  const at = (key: string) => plan.lineOfKey.get(key)!;
  const factors = factorsIn(plan, at('operating_income'));
  expect(['sales', 'costs', 'expenses', 'depreciation'].map((key) => factors.get(at(key)))).toEqual([1, -1, -1, -1]);
  expect([linePartsOf(plan, plan.lines[at('margin')]!), linePartsOf(plan, plan.lines[at('sales')]!)?.size]).toEqual([null, 0]);
});

it('every comparison has the blocks and columns that findings are read from', () => {
  for (const comparison of COMPARISONS) {
    const { blocks } = findingColumns(comparison);
    expect(blocks.length).toBeGreaterThan(0);
    for (const { columns } of blocks) expect(columns.map(({ key }) => key)).toEqual(['compared', 'base', 'variance', 'percent']);
  }
});
