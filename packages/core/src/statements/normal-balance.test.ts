import { describe, expect, it } from 'vitest';

import type { Column, ColumnSet } from './column-set.ts';
import { evaluate } from './evaluate.ts';
import { parseExpression } from './expression.ts';
import { expressionPolarity } from './expression-polarity.ts';
import type { Line } from './line-set.ts';
import { block, calendar, chart, sourceOf } from './small-books.ts';
import { planStatement } from './statement-plan.ts';

const month = { kind: 'month' } as const;
const columns: readonly Column[] = [
  { kind: 'amount', key: 'actual', heading: 'Actual', scenario: 'actual', span: month },
  { kind: 'amount', key: 'budget', heading: 'Budget', scenario: 'budget', span: month },
  { kind: 'difference', key: 'variance', heading: 'Variance', compared: 'actual', base: 'budget' },
];
const columnSet: ColumnSet = { key: 'c', name: 'C', blocks: [block(columns)] };
/** Sales 1,000 against 900, expenses 700 against 600, 14 guests in both. */
const figures = (sales: number, cost: number) =>
  sourceOf(
    [
      { to: '1000', from: '4000', year: 2026, month: 7, amount: sales },
      { to: '6000', from: '1000', year: 2026, month: 7, amount: cost },
    ],
    new Map([['guests 30', 14]]),
  );
function cells(lines: readonly Line[]) {
  const { plan, issues } = planStatement({ lineSet: { key: 'l', name: 'L', lines }, columnSet, chart, calendar, asOf: 30 as never });
  const grid = evaluate(plan, (ref) => (ref === 'budget' ? figures(900, 600) : figures(1000, 700)), {});
  const at = (line: string, column: string) =>
    grid.cells[plan.lineOfKey.get(line)!]![plan.columns.findIndex(({ key }) => key === `b.${column}`)];
  return { issues, at };
}
const cost: Line = { kind: 'accounts', key: 'cost', name: 'Expenses', selection: { ranges: [{ from: '6000', to: '6999' }] } };
const sales: Line = { kind: 'accounts', key: 'sales', name: 'Sales', selection: { classes: ['revenue'] } };

describe('a line without a normal balance of its own', () => {
  it('shows an expense positive, and marks what is over budget U', () => {
    const { at, issues } = cells([cost]);
    expect(issues).toEqual([]);
    expect(at('cost', 'actual')).toMatchObject({ value: 700 });
    expect(at('cost', 'variance')).toMatchObject({ value: 100, favor: 'U' });
  });
  it('is marked U as well where somebody shows the expense negative', () => {
    expect(cells([{ ...cost, sign: 'credit' }]).at('cost', 'variance')).toMatchObject({ value: -100, favor: 'U' });
  });
  it.each<[string, Line]>([
    ['a class', { kind: 'accounts', key: 'x', name: 'X', selection: { classes: ['operatingExpenses'] } }],
    ['groups', { kind: 'groups', key: 'x', name: 'X', selection: { classes: ['operatingExpenses'] } }],
    ['a break-out', { kind: 'breakOut', key: 'x', name: 'X', selection: { classes: ['operatingExpenses'] }, by: 'account' }],
  ])('takes that of its accounts: %s', (_, line) => {
    const key = line.kind === 'groups' ? 'x.6000' : 'x';
    const { at } = cells([line, { kind: 'spacer', key: 's', name: '' }]);
    expect([key, at(line.kind === 'groups' ? 'x.account_6000' : key, 'variance')]).toMatchObject([key, { value: 100, favor: 'U' }]);
  });
  it('gives a total that of its lines, and a formula its marks from what it reads', () => {
    const { at } = cells([
      { kind: 'section', key: 'costs', name: 'Costs', lines: [cost, { kind: 'total', key: 'total', name: 'Total', of: 'costs' }] },
      sales,
      { kind: 'statistic', key: 'guests', name: 'Guests', series: 'guests', over: 'sum' },
      { kind: 'formula', key: 'margin', name: 'Margin', expression: 'sales - total', result: 'amount' },
      { kind: 'formula', key: 'per_guest', name: 'Margin per guest', expression: '(sales - cost) / guests', result: 'amount' },
    ]);
    expect(at('total', 'variance')).toMatchObject({ value: 100, favor: 'U' });
    expect(at('margin', 'actual')).toMatchObject({ value: 300 });
    expect(at('per_guest', 'actual')).toMatchObject({ value: Math.round(300 / 14) });
    const better = cells([sales, { kind: 'formula', key: 'net', name: 'Net', expression: 'sales - 5', result: 'amount' }]);
    expect(better.at('net', 'variance')).toMatchObject({ value: 100, favor: 'F' });
  });
  it('is asked about only where its accounts have both', () => {
    const mixed: Line = { kind: 'accounts', key: 'mixed', name: 'Mixed', selection: { classes: ['revenue', 'operatingExpenses'] } };
    expect(cells([mixed]).issues).toMatchObject([{ line: 'mixed', code: 'mixedBalances' }]);
    expect(cells([{ ...mixed, sign: 'credit' }]).issues).toEqual([]);
    expect(cells([{ ...mixed, sign: 'credit' }]).at('mixed', 'variance')).toMatchObject({ value: 0 });
  });
});

describe('the polarity of a formula', () => {
  const polarity = (text: string) => {
    const parsed = parseExpression(text);
    if (!parsed.ok) throw new Error(text);
    return expressionPolarity(parsed.expression, (key) =>
      key === 'revenue' ? 'higherIsBetter' : key === 'cost' ? 'lowerIsBetter' : 'neutral',
    );
  };
  it.each([
    ['revenue - cost', 'higherIsBetter'],
    ['cost - revenue', 'lowerIsBetter'],
    ['revenue + cost', 'neutral'],
    ['-cost', 'higherIsBetter'],
    ['cost / guests', 'lowerIsBetter'],
    ['2 * cost', 'lowerIsBetter'],
    ['revenue * cost', 'neutral'],
    ['max(cost, cost)', 'lowerIsBetter'],
    ['abs(cost)', 'neutral'],
    ['cost - 5', 'lowerIsBetter'],
    ['revenue - guests', 'neutral'],
  ])('%s is %s', (text, expected) => expect(polarity(text)).toBe(expected));
});
