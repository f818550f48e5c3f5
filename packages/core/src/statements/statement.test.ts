import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { monthCalendar, periodOfKey, slotCount, slotOfYear } from '../calendar/fiscal-calendar.ts';
import { type Account, isIncomeAccount } from '../chart/account.ts';
import { account as smallAccount } from '../chart/small-account.ts';
import { BalanceCube } from '../ledger/balance-cube.ts';
import { minor } from '../money/minor.ts';
import { differenceOf, percentDifferenceOf, shareOf } from '../variance/difference.ts';
import { favorOf } from '../variance/favor.ts';
import { amount, blank, type Cell, notMeaningful } from './cell.ts';
import { cellDrillDown } from './cell-drill-down.ts';
import type { ColumnSet } from './column-set.ts';
import { evaluate } from './evaluate.ts';
import { linesRead, parseExpression } from './expression.ts';
import type { LineSet } from './line-set.ts';
import type { ScenarioSource } from './scenario-source.ts';
import { MONTHS_COLUMNS, REVIEW_COLUMNS, TREND_COLUMNS } from './shipped/comparison-columns.ts';
import { INCOME_LINES } from './shipped/income-lines.ts';
import { SHIPPED_VIEWS } from './shipped/views.ts';
import { planStatement } from './statement-plan.ts';

const account = (number: string, name: string, of: Account['class'], group: string | null = null): Account =>
  smallAccount(number, of, { name, group });
const accounts = [
  account('4000', 'Kayaks', 'revenue', 'Sales'),
  account('4900', 'Returns', 'revenueDeductions', 'Sales'),
  account('4100', 'Tours', 'revenue', 'Tours'),
  account('5000', 'Materials', 'costOfSales'),
  account('6000', 'Wages', 'operatingExpenses'),
  account('7000', 'Interest', 'interestExpense'),
  account('8000', 'Tax', 'incomeTax'),
  account('1000', 'Cash', 'cash'),
];
const chart = { accounts };
const calendar = monthCalendar({ startMonth: 1, firstYear: 2025, lastYear: 2026 });
const isIncome = accounts.map(isIncomeAccount);

type Posting = { account: string; year: number; month: number; amount: number; department?: string };
const cubeOf = (postings: readonly Posting[]): BalanceCube => {
  const cube = new BalanceCube({ isIncome, slots: slotCount(calendar) });
  cube.post(
    postings.map((posting) => ({
      account: accounts.findIndex(({ number }) => number === posting.account),
      slot: slotOfYear(calendar, posting.year, posting.month)!,
      layer: 'ordinary' as const,
      amount: minor(posting.amount),
      combination: posting.department ? { department: posting.department } : {},
    })),
  );
  return cube;
};
const source = (name: string, postings: readonly Posting[], missing: ScenarioSource['missing'] = () => null): ScenarioSource => {
  const cube = cubeOf(postings);
  return {
    name,
    slab: (filter) => cube.slab(filter),
    slices: (filter, rows, dimension) => cube.slices(filter, rows, dimension),
    missing,
    hasBalances: () => name === 'Actual',
    balanceSlab: (_, filter) => cube.slab(filter),
    statistic: () => null,
  };
};
const run = (options: {
  actual: readonly Posting[];
  budget?: readonly Posting[];
  columnSet?: ColumnSet;
  lineSet?: LineSet;
  asOf?: string;
  filter?: Record<string, string[]>;
  missing?: ScenarioSource['missing'];
}) => {
  const planned = planStatement({
    lineSet: options.lineSet ?? INCOME_LINES,
    columnSet: options.columnSet ?? REVIEW_COLUMNS,
    chart,
    calendar,
    asOf: periodOfKey(calendar, options.asOf ?? '2026-03')!,
  });
  if (planned.issues.length > 0) throw new Error(JSON.stringify(planned.issues));
  const budget = source('Budget', options.budget ?? [], options.missing);
  const actual = source('Actual', options.actual, options.missing);
  const grid = evaluate(planned.plan, (ref) => (ref === 'actual' ? actual : budget), options.filter ?? {});
  const at = (line: string, column: string): Cell => {
    const cell =
      grid.cells[grid.plan.lines.findIndex(({ key }) => key === line)]?.[grid.plan.columns.findIndex(({ key }) => key === column)];
    if (!cell) throw new Error(`no cell at ${line}, ${column}`);
    return cell;
  };
  return { grid, at };
};
const post = (number: string, amountOf: number, month = 3, year = 2026, department?: string): Posting => ({
  account: number,
  year,
  month,
  amount: amountOf,
  ...(department ? { department } : {}),
});

describe('the income statement', () => {
  const actual = [
    post('4000', -1000),
    post('4900', 50),
    post('4100', -500, 2),
    post('5000', 400),
    post('6000', 300),
    post('7000', 20),
    post('8000', 30),
    post('4000', -800, 3, 2025),
  ];
  const budget = [post('4000', -900), post('5000', 450)];
  it('shows every line in its natural sign, contra accounts negative inside their group', () => {
    const { at } = run({ actual, budget });
    expect(at('revenue_lines.sales', 'month.actual')).toEqual(amount(minor(950)));
    expect(at('revenue_lines.sales.4900', 'month.actual')).toEqual(amount(minor(-50)));
    expect(at('cost_of_sales', 'month.actual')).toEqual(amount(minor(400)));
    expect(at('net_income', 'month.actual')).toEqual(amount(minor(950 - 400 - 300 - 20 - 30)));
    expect(at('revenue', 'ytd.actual')).toEqual(amount(minor(1450)));
  });
  it('marks differences by what helps the result, and divides by the size of the base', () => {
    const { at } = run({ actual, budget });
    expect(at('revenue', 'month.budget_difference')).toEqual({ kind: 'amount', value: 50, favor: 'F' });
    expect(at('cost_of_sales', 'month.budget_difference')).toEqual({ kind: 'amount', value: -50, favor: 'F' });
    expect(at('operating_expenses', 'month.budget_difference')).toEqual({ kind: 'amount', value: 300, favor: 'U' });
    expect(at('revenue', 'month.budget_percent')).toEqual({ kind: 'ratio', value: 50 / 900, unit: 'percent' });
    expect(at('gross_margin', 'month.budget_difference')).toMatchObject({ kind: 'ratio', unit: 'points', favor: 'F' });
    expect(at('gross_margin', 'month.budget_percent')).toEqual(blank('ratioLine'));
  });
  it('shows no percentage of nothing', () => {
    const { at } = run({ actual, budget });
    expect(at('operating_expenses', 'month.budget_percent')).toEqual(notMeaningful('zeroBase'));
    expect(at('revenue_lines.tours', 'month.budget_percent')).toEqual(blank('bothZero'));
    expect(run({ actual: [post('6000', 10)] }).at('gross_margin', 'month.actual')).toEqual(blank('bothZero'));
    expect(run({ actual: [post('6000', 10)] }).at('operating_margin', 'month.actual')).toEqual(notMeaningful('divisionByZero'));
    expect(run({ actual: [post('6000', 10)] }).at('operating_expenses', 'month.actual_share')).toEqual(notMeaningful('zeroBase'));
  });
  it('leaves months blank that are not posted, and what is made from them', () => {
    const { at } = run({ actual, budget, missing: ({ from }) => (from > periodOfKey(calendar, '2026-02')! ? 'notYetPosted' : null) });
    expect(at('revenue', 'month.actual')).toEqual(blank('notYetPosted'));
    expect(at('gross_margin', 'month.actual')).toEqual(blank('notYetPosted'));
    expect(at('revenue', 'month.budget_difference')).toEqual(blank('fromBlank'));
  });
  it('says a year before the calendar is outside it', () =>
    expect(run({ actual, asOf: '2025-03' }).at('revenue', 'month.prior')).toEqual(blank('outsideCalendar')));
  it('recomputes a total block from summed amounts, never from percentages', () => {
    const { at } = run({
      actual: [post('4000', -100, 1), post('4000', -300, 2)],
      budget: [post('4000', -200, 1), post('4000', -100, 2)],
      columnSet: MONTHS_COLUMNS,
    });
    expect(at('revenue', 'months.2026-01.percent')).toMatchObject({ value: -0.5 });
    expect(at('revenue', 'months.2026-02.percent')).toMatchObject({ value: 2 });
    expect(at('revenue', 'year.budget')).toEqual(amount(minor(300)));
    expect(at('revenue', 'ytd.actual')).toEqual(amount(minor(400)));
    expect(at('revenue', 'ytd.percent')).toMatchObject({ value: 100 / 300 });
  });
  it('follows the as-of month with every repeated block', () => {
    const keys = (asOf: string) => run({ actual, columnSet: TREND_COLUMNS, asOf }).grid.plan.blocks.map(({ key }) => key);
    expect(keys('2026-03')[0]).toBe('trend.2025-04');
    expect(keys('2026-04')[0]).toBe('trend.2025-05');
    expect(keys('2026-04')).toHaveLength(13);
  });
  it('gives the balance-sheet accounts their closing balance and budgets none', () => {
    const lineSet: LineSet = {
      key: 'cash',
      name: 'Cash',
      percentBase: 'cash',
      lines: [{ kind: 'accounts', key: 'cash', name: 'Cash', selection: { classes: ['cash'] }, sign: 'debit' }],
    };
    const { at } = run({ actual: [post('1000', 70, 1), post('1000', 30, 3)], budget: [], lineSet });
    expect(at('cash', 'month.actual')).toEqual(amount(minor(100)));
    expect(at('cash', 'month.budget')).toEqual(blank('noBalanceBudget'));
  });
});

describe('invariants of evaluate', () => {
  const anyPosting = fc.record({
    account: fc.constantFrom(...accounts.filter(isIncomeAccount).map(({ number }) => number)),
    year: fc.constantFrom(2025, 2026),
    month: fc.integer({ min: 1, max: 12 }),
    amount: fc.integer({ min: -1e8, max: 1e8 }),
    department: fc.constantFrom('A', 'B'),
  });
  it('net income is the direct sum of the postings; accounts add up to every cell they made; slices add up', () =>
    fc.assert(
      fc.property(fc.array(anyPosting, { maxLength: 40 }), (actual) => {
        const { grid, at } = run({ actual });
        const inMonth = actual.filter(({ year, month }) => year === 2026 && month === 3).reduce((sum, posting) => sum - posting.amount, 0);
        expect(at('net_income', 'month.actual')).toEqual(amount(minor(inMonth)));
        for (const line of grid.plan.lines) {
          for (const column of grid.plan.columns) {
            const drillDown = cellDrillDown(grid, line.index, column.index);
            const cell = grid.cells[line.index]![column.index]!;
            if (drillDown.kind === 'accounts' && cell.kind === 'amount')
              expect(drillDown.accounts.reduce((sum, each) => sum + each.amount, 0)).toBe(cell.value);
            if (cell.kind === 'ratio') expect(Number.isFinite(cell.value)).toBe(true);
            if ('value' in cell) expect(Object.is(cell.value, -0)).toBe(false);
          }
        }
        const slices = ['A', 'B'].map((department) =>
          run({ actual, filter: { department: [department] } }).at('operating_income', 'ytd.actual'),
        );
        const whole = at('operating_income', 'ytd.actual');
        expect(slices.reduce((sum, cell) => sum + (cell.kind === 'amount' ? cell.value : NaN), 0)).toBe(
          whole.kind === 'amount' ? whole.value : NaN,
        );
      }),
      { numRuns: 60 },
    ));
  it.each(SHIPPED_VIEWS.map(({ key, lineSet, columnSet }) => ({ key, lineSet, columnSet })))(
    'the shipped view $key is laid out without a fault for every month of the calendar',
    ({ lineSet, columnSet }) => {
      const dimensions = new Map([
        ['department', ['A', '']],
        ['party', ['Dealer', '']],
      ]);
      for (const { index } of calendar.periods)
        expect(planStatement({ lineSet, columnSet, chart, calendar, asOf: index, dimensions }).issues).toEqual([]);
    },
  );
  it('the drill-down of a difference leads to its two figures, a formula to its lines, a share to its base', () => {
    const { grid } = run({ actual: [post('4000', -100)] });
    const at = (line: string, column: string) => {
      const drillDown = cellDrillDown(
        grid,
        grid.plan.lines.findIndex(({ key }) => key === line),
        grid.plan.columns.findIndex(({ key }) => key === column),
      );
      return drillDown.kind === 'cells'
        ? drillDown.parts.map((part) => `${grid.plan.lines[part.line]!.key}~${grid.plan.columns[part.column]!.key}`)
        : drillDown.kind;
    };
    expect(at('revenue', 'month.budget_difference')).toEqual(['revenue~month.actual', 'revenue~month.budget']);
    expect(at('gross_profit', 'month.actual')).toEqual(['revenue~month.actual', 'cost_of_sales~month.actual']);
    expect(at('cost_of_sales', 'month.actual_share')).toEqual(['cost_of_sales~month.actual', 'revenue~month.actual']);
    expect(at('revenue_section', 'month.actual')).toBe('none');
  });
});

describe('faults of a statement are reported together', () => {
  const lineSet = (lines: LineSet['lines']): LineSet => ({ key: 't', name: 'T', percentBase: 'a', lines });
  const formula = (key: string, expression: string): LineSet['lines'][number] => ({
    kind: 'formula',
    key,
    name: key,
    expression,
    result: 'amount',
  });
  const issues = (lines: LineSet['lines'], columnSet: ColumnSet = TREND_COLUMNS) => {
    const planned = planStatement({ lineSet: lineSet(lines), columnSet, chart, calendar, asOf: periodOfKey(calendar, '2026-03')! });
    return planned.issues.map((issue) => `${issue.code} ${issue.token}`);
  };
  it('names unknown lines, circles, repeated keys and formulas that do not read', () => {
    expect(issues([formula('a', 'b + nothing'), formula('b', 'a'), formula('b', '1 +')])).toEqual(
      expect.arrayContaining(['repeatedKey b', 'formula ', 'unknownLine nothing']),
    );
    expect(issues([formula('a', 'b'), formula('b', 'a')])).toEqual(['circular a']);
    expect(issues([{ kind: 'total', key: 'a', name: 'A', of: 'no_section', sign: 'debit' }])).toEqual(['unknownSection no_section']);
  });
  it('names a column that points nowhere', () => {
    const columnSet: ColumnSet = {
      key: 'c',
      name: 'C',
      blocks: [
        {
          key: 'b',
          heading: '',
          span: { kind: 'month' },
          columns: [{ kind: 'difference', key: 'd', heading: '', compared: 'x', base: 'y' }],
        },
      ],
    };
    expect(issues([formula('a', '1')], columnSet)).toEqual(['unknownColumn x', 'unknownColumn y']);
  });
});

describe('expressions', () => {
  it.each([
    ['1 + ', 'unexpectedEnd', 4],
    ['a $ b', 'unexpectedToken', 2],
    ['(a', 'unexpectedEnd', 2],
    ['foo(a)', 'unknownFunction', 0],
    ['a b', 'unexpectedToken', 2],
    ['x'.repeat(2001), 'tooLong', 2000],
    [`${'('.repeat(60)}1`, 'tooDeep', 51],
  ])('%s', (text, code, at) => expect(parseExpression(text)).toMatchObject({ ok: false, issue: { code, at } }));
  it('keeps precedence, signs and functions', () => {
    const lineSet: LineSet = {
      key: 't',
      name: 'T',
      percentBase: 'a',
      lines: [
        { kind: 'formula', key: 'a', name: 'a', expression: '2 + 3 * 4 - -1', result: 'amount' },
        { kind: 'formula', key: 'b', name: 'b', expression: 'max(a, 20) - min(1, 2) + abs(-5)', result: 'amount' },
        { kind: 'formula', key: 'c', name: 'c', expression: '(a + 1) / 3', result: 'amount' },
        { kind: 'formula', key: 'd', name: 'd', expression: 'a / (1 - 1)', result: 'times' },
        { kind: 'formula', key: 'e', name: 'e', expression: 'd + 1', result: 'times' },
      ],
    };
    const { at } = run({ actual: [], lineSet, columnSet: TREND_COLUMNS });
    const value = (line: string) => at(line, 'trend.2026-03.actual');
    expect([value('a'), value('b'), value('c')]).toEqual([1500, 2400, 533].map((each) => amount(minor(each))));
    expect(value('d')).toEqual(notMeaningful('divisionByZero'));
    expect(value('e')).toEqual(notMeaningful('fromNotMeaningful'));
  });
  it('lists the lines it reads once each', () => {
    const parsed = parseExpression('a / (a + b.c) - max(d, a)');
    expect(parsed.ok && linesRead(parsed.expression)).toEqual(['a', 'b.c', 'd']);
  });
});

describe('variance', () => {
  it('divides by the size of a negative base', () =>
    expect(percentDifferenceOf(amount(minor(-50)), amount(minor(-100)))).toMatchObject({ value: 0.5 }));
  it('travels through what is missing', () => {
    expect(differenceOf(blank('noBudget'), amount(minor(1)), 'neutral')).toEqual(blank('fromBlank'));
    expect(differenceOf(notMeaningful('zeroBase'), amount(minor(1)), 'neutral')).toEqual(notMeaningful('fromNotMeaningful'));
    expect(shareOf(amount(minor(0)), amount(minor(0)))).toEqual(blank('bothZero'));
  });
  it('has no mark for no difference or a neutral line', () =>
    expect([favorOf(0, 'higherIsBetter'), favorOf(5, 'neutral'), favorOf(-5, 'lowerIsBetter'), favorOf(-5, 'higherIsBetter')]).toEqual([
      undefined,
      undefined,
      'F',
      'U',
    ]));
});
