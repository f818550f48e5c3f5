import { monthCalendar, periodOfKey, slotCount, slotOfYear } from '../calendar/fiscal-calendar.ts';
import { cashFlowFacts } from '../cash-flow/cash-flow-facts.ts';
import { classifyEntries } from '../cash-flow/cash-flow-history.ts';
import { CASH_FLOW } from '../cash-flow/cash-flow-part.ts';
import { type Account, isIncomeAccount } from '../chart/account.ts';
import { account as smallAccount } from '../chart/small-account.ts';
import { BalanceCube } from '../ledger/balance-cube.ts';
import type { DimensionFilter } from '../ledger/dimension.ts';
import { minor } from '../money/minor.ts';
import type { Benchmarks } from './benchmark.ts';
import type { Cell } from './cell.ts';
import type { Block, Column, ColumnSet } from './column-set.ts';
import { evaluate } from './evaluate.ts';
import type { Line, LineSet } from './line-set.ts';
import type { ScenarioSource } from './scenario-source.ts';
import { planStatement } from './statement-plan.ts';

// small books for the tests of this folder
const account = (number: string, of: Account['class'], cashflow: string | null = null): Account => smallAccount(number, of, { cashflow });
export const accounts = [
  account('1000', 'cash'),
  account('1100', 'receivables'),
  account('1500', 'fixedAssets'),
  account('1590', 'accumulatedDepreciation'),
  account('2000', 'payables'),
  account('2500', 'longTermDebt'),
  account('3000', 'capital'),
  account('3200', 'retainedEarnings'),
  account('3300', 'dividends'),
  account('4000', 'revenue'),
  account('6000', 'operatingExpenses'),
  account('6800', 'depreciation'),
];
export const chart = { accounts };
export const calendar = monthCalendar({ startMonth: 4, firstYear: 2024, lastYear: 2026, hasAdjustmentPeriod: true });
export const dimensions = new Map([['department', ['North', 'South', '']]]);
const positionOf = (number: string) => accounts.findIndex((each) => each.number === number);

export type Posting = {
  readonly to: string;
  readonly from: string;
  readonly year: number;
  readonly month: number;
  readonly amount: number;
  readonly department?: string;
  readonly closing?: boolean;
};
/** Postings are entries of two lines, so that everything balances. */
export function sourceOf(postings: readonly Posting[], statistics: ReadonlyMap<string, number> = new Map()): ScenarioSource {
  const entries = postings.map(({ to, from, year, month, amount, department, closing }) =>
    [[to, amount] as const, [from, -amount] as const].map(([number, value]) => ({
      account: positionOf(number),
      slot: slotOfYear(calendar, year, month)!,
      layer: closing ? ('closing' as const) : ('ordinary' as const),
      amount: minor(value),
      combination: department ? { department } : {},
      party: '',
      document: '',
    })),
  );
  const empty = () => new BalanceCube({ isIncome: accounts.map(isIncomeAccount), slots: slotCount(calendar) });
  const ledger = empty();
  ledger.post(entries.flat());
  const movements = classifyEntries(
    chart,
    entries.filter(([line]) => line!.layer === 'ordinary'),
  ).map(({ line, account, part, amount }) => ({ ...line, account, part, amount }));
  const cashFlow = empty();
  cashFlow.post(cashFlowFacts(chart, ledger.facts, { movements, accrued: { interest: [], incomeTax: [] } }));
  const cubeFor = (filter: DimensionFilter) => (CASH_FLOW in filter ? cashFlow : ledger);
  return {
    name: 'Actual',
    slab: (filter) => cubeFor(filter).slab(filter),
    slices: (filter, rows, dimension) => cubeFor(filter).slices(filter, rows, dimension),
    missing: () => null,
    hasBalances: () => true,
    balanceSlab: (_, filter) => cubeFor(filter).slab(filter),
    statistic: (series, _, period) => statistics.get(`${series} ${period}`) ?? null,
  };
}
export function run(options: {
  postings?: readonly Posting[];
  lines?: readonly Line[];
  lineSet?: LineSet;
  blocks: readonly Block[];
  asOf?: string;
  source?: ScenarioSource;
  onlyAccounts?: readonly string[];
  benchmarks?: Benchmarks;
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
    onlyAccounts: options.onlyAccounts ? new Set(options.onlyAccounts.map(positionOf)) : null,
    benchmarks: options.benchmarks ?? new Map(),
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
export const month = { kind: 'month' } as const;
export const actual: Column = { kind: 'amount', key: 'actual', heading: 'Actual', scenario: 'actual', span: month };
export const block = (columns: readonly Column[], more: Partial<Block> = {}): Block => ({
  key: 'b',
  heading: '{span}',
  span: month,
  columns,
  ...more,
});
export const sales: Line = { kind: 'accounts', key: 'sales', name: 'Sales', selection: { classes: ['revenue'] }, sign: 'credit' };
export const sold = (amount: number, monthNumber = 7, department?: string, year = 2026): Posting => ({
  to: '1000',
  from: '4000',
  year,
  month: monthNumber,
  amount,
  ...(department ? { department } : {}),
});
