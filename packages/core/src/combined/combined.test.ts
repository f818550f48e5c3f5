import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { monthCalendar, type PeriodIndex, periodOfKey, type Slot, slotCount, slotOfYear } from '../calendar/fiscal-calendar.ts';
import { type Chart, isIncomeAccount } from '../chart/account.ts';
import { account } from '../chart/small-account.ts';
import { BalanceCube, type BalanceFact } from '../ledger/balance-cube.ts';
import { NO_FILTER } from '../ledger/dimension.ts';
import { minor } from '../money/minor.ts';
import { NO_BENCHMARKS } from '../statements/benchmark.ts';
import { evaluate } from '../statements/evaluate.ts';
import type { LineSet } from '../statements/line-set.ts';
import { planStatement } from '../statements/statement-plan.ts';
import { combinedBudget, combinedLedger, type MemberFacts } from './combined-facts.ts';
import { type CombinedLayout, combinedLayout, COMPANY, INTERCOMPANY } from './combined-layout.ts';
import { combinedSources, type MemberMonths } from './combined-scenarios.ts';
import { companyColumns } from './company-columns.ts';
import { latestRates, monthsWithoutRates, type RateTable } from './exchange-rates.ts';

const chart: Chart = {
  accounts: [
    account('1000', 'cash'),
    account('1300', 'receivables'),
    account('3000', 'capital'),
    account('4000', 'revenue'),
    account('6000', 'operatingExpenses'),
  ],
};
const [CASH, DUE, CAPITAL, REVENUE, EXPENSES] = [0, 1, 2, 3, 4] as const;
/** April to March */
const spring = monthCalendar({ startMonth: 4, firstYear: 2026, lastYear: 2027, hasAdjustmentPeriod: true });
/** January to December */
const calendarYear = monthCalendar({ startMonth: 1, firstYear: 2025, lastYear: 2026 });
type Entry = readonly [year: number, number: number, debit: number, credit: number, amount: number];

const factsOf = (calendar: typeof spring, entries: readonly Entry[], layer: BalanceFact['layer'] = 'ordinary'): BalanceFact[] =>
  entries.flatMap(([year, number, debit, credit, amount]) => {
    const slot = slotOfYear(calendar, year, number)!;
    const fact = { slot, combination: {}, layer };
    return [
      { ...fact, account: debit, amount: minor(amount) },
      { ...fact, account: credit, amount: minor(-amount) },
    ];
  });
const member = (name: string, facts: readonly BalanceFact[], more: Partial<MemberFacts> = {}): MemberFacts => ({
  name,
  facts,
  intercompany: new Set(),
  rates: null,
  unitFactor: 1,
  ...more,
});
const layout = combinedLayout(
  [
    { name: 'North', chart, calendar: spring },
    { name: 'South', chart, calendar: calendarYear },
  ],
  4,
);
const cubeOf = (of: CombinedLayout, facts: readonly BalanceFact[]): BalanceCube => {
  const cube = new BalanceCube({ isIncome: of.isIncome, slots: slotCount(of.calendar) });
  cube.post(facts);
  return cube;
};
const months = (name: string, last: string | null, more: Partial<MemberMonths> = {}): MemberMonths => ({
  name,
  first: 0 as PeriodIndex,
  last: last === null ? null : periodOfKey(layout.calendar, last),
  budgeted: new Set(),
  budgetDimensions: [],
  ...more,
});

/** The second company of the layout, beside a first without postings. */
const south = (facts: readonly BalanceFact[], more: Partial<MemberFacts> = {}): readonly MemberFacts[] => [
  member('North', []),
  member('South', facts, more),
];

/** Figures of lines by company, as amounts or reasons. */
function sideBySide(
  lineSet: LineSet,
  cube: BalanceCube,
  { members, asOf, budget }: { readonly members: readonly MemberMonths[]; readonly asOf: string; readonly budget?: BalanceCube },
): Record<string, Record<string, unknown>> {
  const { plan } = planStatement({
    lineSet,
    columnSet: companyColumns('yearToDate', budget ? 'budget' : 'actual'),
    chart: layout.chart,
    calendar: layout.calendar,
    asOf: periodOfKey(layout.calendar, asOf)!,
    dimensions: new Map([[COMPANY, ['North', 'South', INTERCOMPANY]]]),
    exponent: 2,
    onlyAccounts: null,
    benchmarks: NO_BENCHMARKS,
    filter: NO_FILTER,
    posted: null,
  });
  const books = { chart: layout.chart, calendar: layout.calendar, firstPosted: 0 as PeriodIndex, statistics: { value: () => null } };
  const sources = combinedSources(books, { ledger: cube, budget: budget ?? cube, members, asOf: periodOfKey(layout.calendar, asOf)! });
  const grid = evaluate(plan, sources, NO_FILTER);
  return Object.fromEntries(
    plan.lines
      .filter(({ kind }) => kind !== 'account')
      .map((line) => [
        line.key,
        Object.fromEntries(
          plan.columns.map((column) => {
            const cell = grid.cells[line.index]![column.index]!;
            const name = plan.blocks[column.block]!.key.slice('companies.'.length);
            return [name, 'value' in cell ? cell.value : 'reason' in cell ? cell.reason : cell];
          }),
        ),
      ]),
  );
}

const INCOME: LineSet = {
  key: 'income',
  name: 'Income',
  lines: [
    { kind: 'accounts', key: 'sales', name: 'Sales', selection: { classes: ['revenue'] }, sign: 'credit' },
    { kind: 'accounts', key: 'costs', name: 'Costs', selection: { classes: ['operatingExpenses'] }, sign: 'debit' },
    { kind: 'formula', key: 'margin', name: 'Margin', expression: '(sales - costs) / sales', result: 'percent' },
  ],
};

describe('the layout of combined books', () => {
  it('makes one account of equal ones, and marks a number that means something else with the company’s initials', () => {
    const other: Chart = { accounts: [account('1000', 'cash'), account('4000', 'otherIncome', { name: 'Grants' })] };
    const { chart: joined, positions } = combinedLayout(
      [
        { name: 'North Sea', chart, calendar: spring },
        { name: 'South-Bay Works', chart: other, calendar: calendarYear },
      ],
      4,
    );
    expect(joined.accounts.map(({ number }) => number)).toEqual([
      ...['1000', '1300', '3000', '4000', '4000 SBW', '6000'],
      ...['INTERCOMPANY', 'TRANSLATION'],
    ]);
    expect(positions).toEqual([
      [0, 1, 2, 3, 5],
      [0, 4],
    ]);
  });

  it('covers the months of all, and puts an adjustment period with the month before it', () => {
    expect(layout.calendar.periods[0]!.key).toBe('2024-04');
    expect(layout.calendar.periods.at(-1)!.key).toBe('2027-03');
    const adjustment = slotOfYear(spring, 2026, 13)!;
    expect(layout.calendar.periods[layout.slotOf(0, adjustment)]!.key).toBe('2026-03');
    expect(layout.calendar.periods[layout.slotOf(1, 0 as Slot)]!.key).toBe('2025-01');
  });

  it('refuses no company at all', () => expect(() => combinedLayout([], 1)).toThrow(RangeError));
});

describe('combined figures', () => {
  const north = factsOf(spring, [
    [2026, 11, CASH, REVENUE, 90_000],
    [2027, 1, CASH, REVENUE, 10_000],
    [2027, 2, EXPENSES, CASH, 4_000],
  ]);
  const southern = factsOf(calendarYear, [
    [2026, 1, CASH, REVENUE, 700],
    [2026, 4, CASH, REVENUE, 20_000],
    [2026, 5, EXPENSES, CASH, 15_000],
  ]);
  const both = [months('North', '2026-05'), months('South', '2026-05')];

  it('align fiscal years by calendar month, and take ratios of the totals', () => {
    const cube = cubeOf(layout, combinedLedger(layout, [member('North', north), member('South', southern)]));
    const shown = sideBySide(INCOME, cube, { members: both, asOf: '2026-05' });
    // April and May 2026 of both: January 2026 of the calendar-year company belongs to the fiscal year before
    expect(shown['sales']).toEqual({ North: 10_000, South: 20_000, Intercompany: 0, total: 30_000 });
    expect(shown['costs']).toEqual({ North: 4_000, South: 15_000, Intercompany: 0, total: 19_000 });
    expect(shown['margin']).toMatchObject({ North: 0.6, South: 0.25, total: 11 / 30 });
  });

  it('leave intercompany accounts out of the total, and say what they do not agree on', () => {
    const lent = factsOf(spring, [[2027, 1, DUE, CASH, 5_000]]);
    const owed = factsOf(calendarYear, [[2026, 4, CASH, DUE, 3_800]]);
    const intercompany = new Set([DUE]);
    const facts = combinedLedger(layout, [member('North', lent, { intercompany }), member('South', owed, { intercompany })]);
    const balances: LineSet = {
      key: 'balances',
      name: 'Balances',
      lines: [
        { kind: 'accounts', key: 'due', name: 'Due', selection: { classes: ['receivables'] }, sign: 'debit' },
        { kind: 'accounts', key: 'other', name: 'Other', selection: { classes: ['otherCurrentAssets'] }, sign: 'debit' },
      ],
    };
    const shown = sideBySide(balances, cubeOf(layout, facts), { members: both, asOf: '2026-05' });
    expect(shown['due']).toEqual({ North: 5_000, South: -3_800, Intercompany: -1_200, total: 0 });
    expect(shown['other']).toEqual({ North: 0, South: 0, Intercompany: 1_200, total: 1_200 });
    const slab = cubeOf(layout, facts).slab(NO_FILTER);
    expect(slab.closing(layout.difference, slotCount(layout.calendar) - 1)).toBe(1_200);
  });

  it('are not posted yet while one company lags behind', () => {
    const cube = cubeOf(layout, combinedLedger(layout, [member('North', north), member('South', southern)]));
    const shown = sideBySide(INCOME, cube, { members: [months('North', '2026-05'), months('South', '2026-04')], asOf: '2026-05' });
    expect(shown['sales']).toEqual({ North: 10_000, South: 20_000, Intercompany: 'notYetPosted', total: 'notYetPosted' });
  });

  it('leave closing entries out, whose months differ', () => {
    const closing = factsOf(calendarYear, [[2025, 12, REVENUE, CAPITAL, 700]], 'closing');
    const facts = combinedLedger(layout, south([...southern, ...closing]));
    expect(facts.every(({ layer }) => layer === 'ordinary')).toBe(true);
    expect(facts).toHaveLength(southern.length);
  });

  it('show a budget only where every company has one', () => {
    const budget = cubeOf(layout, combinedBudget(layout, [member('North', north), member('South', southern)]));
    const budgeted = (...keys: string[]) => new Set(keys.map((key) => periodOfKey(layout.calendar, key)!));
    const shown = sideBySide(INCOME, budget, {
      members: [
        months('North', null, { budgeted: budgeted('2026-04', '2026-05') }),
        months('South', null, { budgeted: budgeted('2026-04') }),
      ],
      asOf: '2026-05',
      budget,
    });
    expect(shown['sales']).toEqual({ North: 10_000, South: 'noBudget', Intercompany: 'noBudget', total: 'noBudget' });
  });
});

describe('translation', () => {
  const rates: RateTable = new Map([
    ['2026-04', { average: 1.1, closing: 1.2 }],
    ['2026-05', { average: 1.3, closing: 1.25 }],
  ]);

  it('takes flows at the average and balances at the closing rate of each month', () => {
    // worked by hand: 100.00 earned in April at 1.10, 50.00 in May at 1.30; the cash of 150.00 is worth 1.25 at the end of May
    const earned = factsOf(calendarYear, [
      [2026, 4, CASH, REVENUE, 10_000],
      [2026, 5, CASH, REVENUE, 5_000],
    ]);
    const facts = combinedLedger(layout, south(earned, { rates }));
    const slab = cubeOf(layout, facts).slab(NO_FILTER);
    const may = periodOfKey(layout.calendar, '2026-05')!;
    expect(slab.closing(layout.positions[1]![CASH]!, may)).toBe(18_750);
    expect(slab.closing(layout.positions[1]![REVENUE]!, may)).toBe(-17_500);
    expect(slab.closing(layout.translation, may)).toBe(-1_250);
    // April: 120.00 of cash against 110.00 earned
    expect(slab.closing(layout.translation, may - 1)).toBe(-1_000);
  });

  it('reads minor units of either currency: 1,500 yen at 0.0066 are 9.90 dollars', () => {
    const yen: RateTable = new Map([['2026-04', { average: 0.0066, closing: 0.007 }]]);
    const facts = combinedLedger(layout, south(factsOf(calendarYear, [[2026, 4, CASH, REVENUE, 1_500]]), { rates: yen, unitFactor: 100 }));
    expect(facts.find(({ account: at }) => at === layout.positions[1]![REVENUE])!.amount).toBe(-990);
  });

  it('refuses a month without rates, and names them beforehand', () => {
    const late = factsOf(calendarYear, [[2026, 6, CASH, REVENUE, 100]]);
    expect(() => combinedLedger(layout, south(late, { rates }))).toThrow('2026-06');
    expect(monthsWithoutRates(rates, ['2026-04', '2026-06', '2026-07'])).toEqual(['2026-06', '2026-07']);
  });

  it('takes coming months of a budget at the latest rates', () => {
    expect(latestRates(rates, '2027-01')).toEqual(rates.get('2026-05'));
    expect(latestRates(rates, '2026-01')).toEqual(rates.get('2026-04'));
    expect(latestRates(new Map(), '2026-01')).toBeNull();
    const facts = combinedBudget(layout, south(factsOf(calendarYear, [[2026, 9, CASH, REVENUE, 100]]), { rates }));
    expect(facts.map(({ amount }) => amount)).toEqual([-130]);
  });

  it('keeps every month at zero, whatever is posted and at whatever rates; companies and what is left out add up to the total', () => {
    const entry = fc.tuple(
      fc.constant(2026),
      fc.integer({ min: 1, max: 12 }),
      fc.integer({ min: 0, max: 4 }),
      fc.integer({ min: 0, max: 4 }),
      fc.integer({ min: -1_000_000, max: 1_000_000 }),
    );
    const rate = fc.double({ min: 0.001, max: 200, noNaN: true });
    fc.assert(
      fc.property(
        fc.array(entry, { maxLength: 12 }),
        fc.array(entry, { maxLength: 12 }),
        fc.array(fc.tuple(rate, rate), { minLength: 12, maxLength: 12 }),
        fc.subarray([CASH, DUE, REVENUE]),
        (first, second, drawn, between) => {
          const table: RateTable = new Map(
            drawn.map(([average, closing], index) => [`2026-${String(index + 1).padStart(2, '0')}`, { average, closing }]),
          );
          const intercompany = new Set(between);
          const cube = cubeOf(
            layout,
            combinedLedger(layout, [
              member('North', factsOf(spring, first), { intercompany }),
              member('South', factsOf(calendarYear, second), { intercompany, rates: table }),
            ]),
          );
          const all = cube.slab(NO_FILTER);
          const parts = ['North', 'South', INTERCOMPANY].map((name) => cube.slab({ [COMPANY]: [name] }));
          for (let slot = 0; slot < slotCount(layout.calendar); slot += 1) {
            for (const slab of [all, ...parts]) {
              const sum = layout.chart.accounts.reduce((total, _, at) => total + slab.closing(at, slot), 0);
              expect(sum === 0 ? 0 : sum).toBe(0);
            }
            layout.chart.accounts.forEach((_, at) =>
              expect(parts.reduce((total, slab) => total + slab.closing(at, slot), 0) - all.closing(at, slot)).toBe(0),
            );
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it('tells income accounts from balances as the chart does', () =>
    expect(layout.isIncome).toEqual(layout.chart.accounts.map(isIncomeAccount)));
});
