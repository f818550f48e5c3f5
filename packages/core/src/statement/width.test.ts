import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { monthCalendar, periodOfKey, slotCount, slotOfYear } from '../calendar/fiscal-calendar.ts';
import { isIncomeAccount, type Account } from '../chart/account.ts';
import { BalanceCube } from '../ledger/balance-cube.ts';
import { minor } from '../money/minor.ts';
import type { Cell } from './cell.ts';
import { columnWords } from './column-words.ts';
import type { Block, Column, ColumnSet } from './column-set.ts';
import { evaluate, type StatementGrid } from './evaluate.ts';
import type { Line, LineSet } from './line-set.ts';
import { planStatement } from './plan.ts';
import { provenanceOf } from './provenance.ts';
import type { ScenarioSource } from './scenario-source.ts';
import { BALANCE_LINES } from './shipped/balance-lines.ts';
import { CASH_FLOW_LINES } from './shipped/cash-flow-lines.ts';
import { shownOrder } from './shown-order.ts';

const account = (number: string, of: Account['class'], cashflow: string | null = null): Account => ({
  number,
  name: `Account ${number}`,
  class: of,
  group: null,
  active: true,
  polarity: null,
  cashflow,
});
const accounts = [
  account('1000', 'cash'),
  account('1100', 'receivables'),
  account('1500', 'fixedAssets'),
  account('1590', 'accumulatedDepreciation'),
  account('2000', 'payables'),
  account('2500', 'longTermDebt'),
  account('3000', 'capital'),
  account('3200', 'retainedEarnings'),
  account('4000', 'revenue'),
  account('6000', 'operatingExpenses'),
  account('6800', 'depreciation'),
];
const chart = { accounts };
const calendar = monthCalendar({ startMonth: 4, firstYear: 2024, lastYear: 2026, hasAdjustmentPeriod: true });
const dimensions = new Map([['department', ['North', 'South', '']]]);
const positionOf = (number: string) => accounts.findIndex((each) => each.number === number);

type Posting = {
  readonly to: string;
  readonly from: string;
  readonly year: number;
  readonly month: number;
  readonly amount: number;
  readonly department?: string;
  readonly closing?: boolean;
};
/** Postings are entries of two lines, so that everything balances. */
function sourceOf(postings: readonly Posting[], statistics: ReadonlyMap<string, number> = new Map()): ScenarioSource {
  const cube = new BalanceCube({ isIncome: accounts.map(isIncomeAccount), slots: slotCount(calendar) });
  cube.post(
    postings.flatMap(({ to, from, year, month, amount, department, closing }) =>
      [[to, amount] as const, [from, -amount] as const].map(([number, value]) => ({
        account: positionOf(number),
        slot: slotOfYear(calendar, year, month)!,
        layer: closing ? ('closing' as const) : ('ordinary' as const),
        amount: minor(value),
        combination: department ? { department } : {},
      })),
    ),
  );
  return {
    name: 'Actual',
    slab: (filter) => cube.slab(filter),
    slices: (filter, rows, dimension) => cube.slices(filter, rows, dimension),
    missing: () => null,
    hasBalances: true,
    statistic: (series, _, period) => statistics.get(`${series} ${period}`) ?? null,
  };
}
function run(options: {
  postings?: readonly Posting[];
  lines?: readonly Line[];
  lineSet?: LineSet;
  blocks: readonly Block[];
  asOf?: string;
  source?: ScenarioSource;
}) {
  const lineSet = options.lineSet ?? { key: 't', name: 'T', percentBase: options.lines![0]!.key, lines: options.lines! };
  const columnSet: ColumnSet = { key: 'c', name: 'C', blocks: options.blocks };
  const { plan, issues } = planStatement({
    lineSet,
    columnSet,
    chart,
    calendar,
    dimensions,
    asOf: periodOfKey(calendar, options.asOf ?? '2025-10')!,
  });
  const source = options.source ?? sourceOf(options.postings ?? []);
  const grid = evaluate(plan, () => source, {});
  const at = (line: string, column: string): Cell => {
    const cell = grid.cells[plan.lineOfKey.get(line) ?? -1]?.[plan.columns.findIndex(({ key }) => key === column)];
    if (!cell) throw new Error(`no cell at ${line}, ${column}; columns ${plan.columns.map(({ key }) => key).join(' ')}`);
    return cell;
  };
  const value = (line: string, column: string): number | string => {
    const cell = at(line, column);
    return 'value' in cell ? cell.value : cell.reason;
  };
  return { plan, issues, grid, at, value };
}
const month = { kind: 'month' } as const;
const actual: Column = { kind: 'amount', key: 'actual', heading: 'Actual', scenario: 'actual', span: month };
const block = (columns: readonly Column[], more: Partial<Block> = {}): Block => ({
  key: 'b',
  heading: '{span}',
  span: month,
  columns,
  ...more,
});
const sales: Line = { kind: 'accounts', key: 'sales', name: 'Sales', selection: { classes: ['revenue'] }, sign: 'credit' };
const sold = (amount: number, monthNumber = 7, department?: string, year = 2026): Posting => ({
  to: '1000',
  from: '4000',
  year,
  month: monthNumber,
  amount,
  ...(department ? { department } : {}),
});

describe('what balance-sheet accounts show', () => {
  const cash: Line = { kind: 'accounts', key: 'cash', name: 'Cash', selection: { classes: ['cash'] }, sign: 'debit' };
  const measured = (measure: 'closing' | 'change' | 'opening' | 'average', span: 'month' | 'yearToDate' = 'month') =>
    run({
      postings: [sold(100, 5), sold(31, 6), sold(10, 7)],
      lines: [cash, sales],
      blocks: [block([{ ...actual, kind: 'amount', scenario: 'actual', span: { kind: span }, measure }])],
    });
  it('is the closing balance, the change, the opening balance, or the mean of both', () => {
    expect(measured('closing').value('cash', 'b.actual')).toBe(141);
    expect(measured('change').value('cash', 'b.actual')).toBe(10);
    expect(measured('opening').value('cash', 'b.actual')).toBe(131);
    expect(measured('average').value('cash', 'b.actual')).toBe(136);
  });
  it('is the year so far for the opening of an income account, nothing at the start of a year', () => {
    expect(measured('opening').value('sales', 'b.actual')).toBe(131);
    expect(measured('opening', 'yearToDate').value('sales', 'b.actual')).toBe(0);
    expect(measured('average').value('sales', 'b.actual')).toBe(10);
  });
  it('is set by the line where the line says so', () => {
    const { value } = run({
      postings: [sold(100, 5), sold(10, 7)],
      lines: [{ ...cash, measure: 'change' } as Line],
      blocks: [block([actual])],
    });
    expect(value('cash', 'b.actual')).toBe(10);
  });
});

describe('break-outs', () => {
  const byDepartment: Line = {
    kind: 'breakOut',
    key: 'sales',
    name: 'Sales',
    selection: { classes: ['revenue'] },
    sign: 'credit',
    by: 'department',
    order: 'amount',
  };
  const postings = fc.array(
    fc.record({
      amount: fc.integer({ min: -5000, max: 5000 }),
      month: fc.integer({ min: 1, max: 13 }),
      department: fc.constantFrom('North', 'South', undefined),
    }),
    { maxLength: 30 },
  );
  it('always add back to their line, in every column', () =>
    fc.assert(
      fc.property(postings, (rows) => {
        const { grid, plan } = run({
          postings: rows.map(({ amount, month: number, department }) => sold(amount, number, department)),
          lines: [byDepartment],
          blocks: [block([actual], { repeat: { over: 'months', within: { kind: 'fullYear' } }, total: { heading: 'Year' } })],
        });
        for (const column of plan.columns) {
          const figures = plan.lines
            .map(({ index }) => grid.cells[index]![column.index]!)
            .map((cell) => (cell.kind === 'amount' ? cell.value : NaN));
          expect(figures.slice(1).reduce((sum, each) => sum + each, 0)).toBe(figures[0]);
        }
      }),
      { numRuns: 40 },
    ));
  it('stand largest first, what has no value last, and lead to their own accounts', () => {
    const { grid, plan } = run({
      postings: [sold(5, 7, 'North'), sold(50, 7, 'South'), sold(500)],
      lines: [byDepartment, { kind: 'spacer', key: 's', name: '' }],
      blocks: [block([actual])],
    });
    expect(shownOrder(grid).map((index) => plan.lines[index]!.name)).toEqual(['Sales', 'South', 'North', 'No department', '']);
    const south = provenanceOf(grid, plan.lineOfKey.get('sales.South')!, 0);
    expect(south).toMatchObject({ kind: 'accounts', sum: 50, filter: { department: ['South'] } });
  });
  it('tell a dimension that is not there, and the line still shows', () => {
    const { issues, value } = run({ postings: [sold(5)], lines: [{ ...byDepartment, by: 'region' } as Line], blocks: [block([actual])] });
    expect(issues).toMatchObject([{ of: 'line', line: 'sales', code: 'unknownDimension', token: 'region' }]);
    expect(value('sales', 'b.actual')).toBe(5);
  });
});

describe('lines with a filter of their own', () => {
  it('break a total into parts that it adds up', () => {
    const part = (key: string, department: string): Line => ({ ...sales, key, filter: { department: [department] } }) as Line;
    const { value, grid, plan } = run({
      postings: [sold(5, 7, 'North'), sold(50, 7, 'South'), sold(500)],
      lines: [
        { kind: 'section', key: 'regions', name: 'Regions', lines: [part('north', 'North'), part('south', 'South'), part('none', '')] },
        { kind: 'total', key: 'all', name: 'All', of: 'regions', sign: 'credit' },
      ],
      blocks: [block([actual])],
    });
    expect(['north', 'south', 'none', 'all'].map((key) => value(key, 'b.actual'))).toEqual([5, 50, 500, 555]);
    expect(provenanceOf(grid, plan.lineOfKey.get('all')!, 0)).toMatchObject({ kind: 'cells', operation: 'sum' });
  });
});

describe('columns', () => {
  const blocks = (columns: readonly Column[], more: Partial<Block> = {}) => [block([actual, ...columns], more)];
  const postings = [sold(100, 5), sold(30, 6), sold(10, 7)];
  it('compute formulas over columns of their block and of others', () => {
    const { value, issues } = run({
      postings,
      lines: [sales],
      blocks: [
        ...blocks([{ kind: 'formula', key: 'twice', heading: '', expression: 'actual * 2 + other.before', result: 'amount' }]),
        {
          key: 'other',
          heading: '',
          span: month,
          columns: [{ ...actual, key: 'before', span: { kind: 'month', shift: { months: -1 } } } as Column],
        },
      ],
    });
    expect(issues).toEqual([]);
    expect(value('sales', 'b.twice')).toBe(50);
  });
  it('run a total over the parts of a repeat, which the total block shows once', () => {
    const { value } = run({
      postings,
      lines: [sales],
      blocks: blocks([{ kind: 'runningTotal', key: 'run', heading: '', of: 'actual' }], {
        repeat: { over: 'months', last: 3 },
        total: { heading: 'All' },
      }),
    });
    expect(['b.2025-08.run', 'b.2025-09.run', 'b.2025-10.run', 'b.total.run'].map((key) => value('sales', key))).toEqual([
      100, 130, 140, 140,
    ]);
  });
  it('recompute percentages of a total block from its amounts', () => {
    const { value } = run({
      postings: [sold(100, 6), sold(10, 7), sold(50, 6, undefined, 2025), sold(40, 7, undefined, 2025)],
      lines: [sales],
      blocks: blocks(
        [
          { ...actual, key: 'prior', span: { kind: 'month', shift: { years: -1 } } } as Column,
          { kind: 'percentDifference', key: 'percent', heading: '', compared: 'actual', base: 'prior' },
        ],
        { repeat: { over: 'months', last: 2 }, total: { heading: 'All' } },
      ),
    });
    expect([value('sales', 'b.2025-09.percent'), value('sales', 'b.2025-10.percent')]).toEqual([1, -0.75]);
    expect(value('sales', 'b.total.percent')).toBeCloseTo(20 / 90, 12);
  });
  it('repeat over quarters and years; the one under way says how far it goes', () => {
    const over = (kind: 'quarters' | 'years', span: 'quarterToDate' | 'yearToDate') =>
      run({
        postings: [...postings, sold(7, 3, undefined, 2025)],
        lines: [sales],
        blocks: [block([{ ...actual, span: { kind: span } } as Column], { repeat: { over: kind, last: 3 } })],
      });
    const years = over('years', 'yearToDate');
    expect(years.plan.blocks.map(({ heading }) => heading)).toEqual(['FY2024', 'FY2025', 'FY2026 to Oct 2025']);
    expect(years.plan.columns.map(({ key }) => years.value('sales', key))).toEqual([0, 7, 140]);
    const quarters = over('quarters', 'quarterToDate');
    expect(quarters.plan.blocks.map(({ heading }) => heading)).toEqual(['Q1 FY2026', 'Q2 FY2026', 'Q3 FY2026 to Oct 2025']);
    expect(quarters.plan.columns.map(({ key }) => quarters.value('sales', key))).toEqual([0, 130, 10]);
  });
  it('repeat over the values of a dimension, with a total of all', () => {
    const { plan, value } = run({
      postings: [sold(5, 7, 'North'), sold(50, 7, 'South'), sold(500)],
      lines: [sales],
      blocks: [block([actual], { heading: '{value}', repeat: { over: 'dimension', dimension: 'department' }, total: { heading: 'All' } })],
    });
    expect(plan.blocks.map(({ heading }) => heading)).toEqual(['North', 'South', 'No department', 'All']);
    expect(plan.columns.map(({ key }) => value('sales', key))).toEqual([5, 50, 500, 555]);
  });
  it('stay where they are pinned, and move where they are not', () => {
    const pinned: Column = { ...actual, key: 'pinned', span: { kind: 'month', pinnedTo: '2025-08' } } as Column;
    const shown = (asOf: string) => {
      const { value } = run({ postings, lines: [sales], blocks: blocks([pinned]), asOf });
      return [value('sales', 'b.actual'), value('sales', 'b.pinned')];
    };
    expect([shown('2025-09'), shown('2025-10')]).toEqual([
      [30, 100],
      [10, 100],
    ]);
  });
  it('take shares of the own group, or of the line a line names', () => {
    const expense: Line = { kind: 'accounts', key: 'wages', name: 'Wages', selection: { accounts: ['6000'] }, sign: 'debit' };
    const other: Line = {
      kind: 'accounts',
      key: 'depreciation',
      name: 'Depreciation',
      selection: { accounts: ['6800'] },
      sign: 'debit',
      percentOf: 'sales',
    };
    const { value, grid, plan } = run({
      postings: [
        sold(400),
        { to: '6000', from: '1000', year: 2026, month: 7, amount: 60 },
        { to: '6800', from: '1590', year: 2026, month: 7, amount: 40 },
      ],
      lines: [
        sales,
        {
          kind: 'section',
          key: 'costs',
          name: 'Costs',
          lines: [expense, other, { kind: 'total', key: 'all', name: 'All', of: 'costs', sign: 'debit' }],
        },
      ],
      blocks: blocks([{ kind: 'share', key: 'share', heading: '', of: 'actual', ownGroup: true }]),
    });
    expect(['wages', 'depreciation', 'all', 'sales'].map((key) => value(key, 'b.share'))).toEqual([0.6, 0.1, 1, 'noLine']);
    expect(provenanceOf(grid, plan.lineOfKey.get('wages')!, 1)).toMatchObject({
      parts: [{ role: 'part' }, { role: 'base', line: plan.lineOfKey.get('all') }],
    });
  });
  it('are told in words', () => {
    const { grid } = run({ postings, lines: [sales], blocks: blocks([{ kind: 'runningTotal', key: 'run', heading: '', of: 'actual' }]) });
    expect(columnWords(grid, 0)).toBe('Actual, Oct 2025');
    expect(columnWords(grid, 1)).toBe('Added up: Actual, Oct 2025');
  });
});

describe('faults are told and the rest still shows', () => {
  const broken: Line = { kind: 'formula', key: 'broken', name: 'Broken', expression: 'sales +', result: 'amount' };
  const reads: Line = { kind: 'formula', key: 'reads', name: 'Reads', expression: 'broken * 2', result: 'amount' };
  it('in lines', () => {
    const { issues, value } = run({ postings: [sold(10)], lines: [sales, broken, reads], blocks: [block([actual])] });
    expect(issues).toMatchObject([{ of: 'line', line: 'broken', code: 'formula' }]);
    expect(['sales', 'broken', 'reads'].map((key) => value(key, 'b.actual'))).toEqual([10, 'faultyLine', 'fromNotMeaningful']);
  });
  it('in columns, circles among them', () => {
    const { issues, value } = run({
      postings: [sold(10)],
      lines: [sales],
      blocks: [
        block([
          actual,
          { kind: 'difference', key: 'gone', heading: '', compared: 'actual', base: 'deleted' },
          { kind: 'formula', key: 'x', heading: '', expression: 'y', result: 'amount' },
          { kind: 'formula', key: 'y', heading: '', expression: 'x', result: 'amount' },
        ]),
      ],
    });
    expect(issues.map(({ code, token }) => `${code} ${token}`)).toEqual(['unknownColumn deleted', 'circular x']);
    expect(['actual', 'gone', 'x'].map((key) => value('sales', `b.${key}`))).toEqual([10, 'faultyColumn', 'fromNotMeaningful']);
  });
  it('a repeat past the most columns is cut and said', () => {
    const { plan, issues } = run({
      postings: [],
      lines: [sales],
      blocks: [
        block(
          Array.from({ length: 20 }, (_, index) => ({ ...actual, key: `a${index}` }) as Column),
          { repeat: { over: 'months', last: 20 } },
        ),
      ],
    });
    expect(plan.columns).toHaveLength(240);
    expect(issues).toMatchObject([{ code: 'tooManyColumns', token: '400' }]);
  });
});

describe('plain numbers in formulas', () => {
  const formula = (key: string, expression: string, result: 'amount' | 'times' = 'amount'): Line => ({
    kind: 'formula',
    key,
    name: key,
    expression,
    result,
  });
  it('stand for whole units of the currency where they meet an amount, and for themselves elsewhere', () => {
    const { value } = run({
      postings: [sold(25000)],
      lines: [
        sales,
        formula('more', 'sales + 100'),
        formula('less', '100 - sales'),
        formula('most', 'max(sales, 300)'),
        formula('part', 'sales * 0.1 - 5'),
        formula('plain', '12 * 3'),
        formula('share', '(sales + 250) / sales', 'times'),
        formula('per_dollar', '5 / sales', 'times'),
        formula('each', 'sales / 4'),
      ],
      blocks: [block([actual])],
    });
    expect(['more', 'less', 'most', 'part', 'plain', 'share', 'per_dollar', 'each'].map((key) => value(key, 'b.actual'))).toEqual([
      35000, -15000, 30000, 2000, 3600, 2, 0.02, 6250,
    ]);
  });
});

describe('statistics', () => {
  const values = new Map([
    [`heads ${periodOfKey(calendar, '2025-09')!}`, 10],
    [`heads ${periodOfKey(calendar, '2025-10')!}`, 14],
  ]);
  it('are added up, averaged or taken last over a span; without any the cell is blank', () => {
    const line = (over: 'sum' | 'average' | 'last'): Line => ({ kind: 'statistic', key: over, name: over, series: 'heads', over });
    const { value } = run({
      source: sourceOf([sold(2400)], values),
      lines: [
        sales,
        line('sum'),
        line('average'),
        line('last'),
        { kind: 'formula', key: 'per_head', name: '', expression: 'sales / average', result: 'amount' },
      ],
      blocks: [
        block([
          { ...actual, span: { kind: 'quarterToDate', shift: { months: -1 } } } as Column,
          { ...actual, key: 'all', span: { kind: 'yearToDate' } } as Column,
          { ...actual, key: 'none', span: { kind: 'month', shift: { years: -1 } } } as Column,
        ]),
      ],
    });
    expect(['sum', 'average', 'last', 'per_head'].map((key) => value(key, 'b.all'))).toEqual([24, 12, 14, 200]);
    expect(value('last', 'b.actual')).toBe(10);
    expect(value('sum', 'b.none')).toBe('noStatistic');
  });
});

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
  it('show this year’s result apart and those before it in retained earnings', () => {
    const { value, grid, plan } = run({
      postings: [sold(100, 3, undefined, 2025), sold(40, 6)],
      lineSet: BALANCE_LINES,
      blocks: [block([closing])],
    });
    expect([value('retained_earnings', 'b.balance'), value('result_of_the_year', 'b.balance')]).toEqual([100, 40]);
    expect(provenanceOf(grid, plan.lineOfKey.get('result_of_the_year')!, 0)).toMatchObject({ kind: 'accounts', sum: 40 });
  });
});
