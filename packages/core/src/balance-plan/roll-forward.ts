import type { BudgetBooks } from '../budgets/budget-books.ts';
import { firstSlot, lastSlot, type PeriodIndex, periodOfYear, PERIODS_PER_YEAR, slotCount } from '../calendar/fiscal-calendar.ts';
import { incomePositions, isBalanceAccount, isIncomeAccount, signOf } from '../chart/account.ts';
import { BalanceCube, type BalanceFact } from '../ledger/balance-cube.ts';
import { NO_FILTER } from '../ledger/dimension.ts';
import { type Minor, minor, ZERO } from '../money/minor.ts';
import type { BalancePlanIssue, InterestMonth } from './balance-plan-issue.ts';
import { type BalanceRule, closingUnder, type DaysBase, type RuleContext } from './balance-rule.ts';
import { daysOfBalance } from './days-of-flow.ts';
import { loanBook } from './loan-book.ts';
import type { LoanMonth } from './loan-schedule.ts';
import { classTotal, MonthEndBalances } from './month-end-balances.ts';
import { incomeOf, lastLedgerMonth, type YearIncome } from './planned-income.ts';
import { interestIssue, interestOf, unscheduledDebt } from './planned-interest.ts';
import { balancingAccountOf, type PlannedRule, plannedRule } from './planned-rules.ts';
import { DAYS_CLASSES, type DaysClass, USUAL_BASE } from './rule-from-history.ts';

const YEAR = PERIODS_PER_YEAR;

/** What a balance sheet is planned from: the income budget of a year, and the methods set manually, by account number. */
export type BalancePlan = YearIncome & { readonly rules: ReadonlyMap<string, BalanceRule> };
/** A loan account through the year that is planned; its months that were posted are left out. */
export type PlannedLoan = {
  readonly account: string;
  readonly months: readonly { readonly period: PeriodIndex; readonly of: LoanMonth }[];
};
/** A budget carried into the balance sheet. */
export type RolledForward = {
  /** the ledger to the month it opens from, and the plan after it, in which every month's amounts add up to zero */
  readonly cube: BalanceCube;
  /** the last month taken from the ledger; null where nothing is posted before the plan */
  readonly opensFrom: PeriodIndex | null;
  readonly first: PeriodIndex;
  /** at the start of the plan's year, and at each of its month ends; debit positive */
  readonly cash: { readonly opening: Minor; readonly months: readonly Minor[] };
  readonly loans: readonly PlannedLoan[];
  /** interest by the schedules and as it is budgeted, in the planned months of the year; empty where there is no loan */
  readonly interest: readonly InterestMonth[];
  /** how many days of their flow receivables, inventory and payables stand for at each month end of the year; null without a flow */
  readonly days: readonly { readonly of: DaysClass; readonly months: readonly (number | null)[] }[];
  /** the same of each account that may be counted in days, in the base of its rule or else of its class */
  readonly accountDays: ReadonlyMap<string, { readonly of: DaysBase; readonly months: readonly (number | null)[] }>;
  /** of every balance-sheet account, by number */
  readonly rules: ReadonlyMap<string, PlannedRule>;
  readonly issues: readonly BalancePlanIssue[];
};

/**
 * Carries a year's income budget into a balance sheet and cash, by month from the last month that is
 * posted before it: income as budgeted, every balance by its rule, and one account of cash takes what is
 * left, so that each month balances. Months of the year that hold what was posted, as in a reforecast, are
 * the ledger's.
 * @throws RangeError when the year lies outside the calendar
 */
export function rollForward(books: BudgetBooks, plan: BalancePlan): RolledForward {
  const { chart, calendar } = books;
  const first = periodOfYear(calendar, plan.year, 1);
  if (first === null) throw new RangeError(`FY${plan.year} is outside the calendar`);
  const opening = lastLedgerMonth(books, plan, first);
  const levels = new MonthEndBalances(books, opening);
  const balances = chart.accounts.flatMap((account, position) => (isBalanceAccount(account) ? [position] : []));
  const rules = new Map(balances.map((position) => [position, plannedRule(books, plan.rules, { levels, position })]));
  const loans = new Map(
    [...rules].flatMap(([position, { rule }]) =>
      rule.kind === 'loan'
        ? [
            [
              position,
              loanBook(rule, { owed: minor(levels.opened(position) * signOf(chart.accounts[position]!)), opening, first }),
            ] as const,
          ]
        : [],
    ),
  );
  const rest = balancingAccountOf(books, rules);
  const cube = new BalanceCube({ isIncome: chart.accounts.map(isIncomeAccount), slots: slotCount(calendar) });
  if (opening >= 0) {
    const upTo = lastSlot(calendar, opening as PeriodIndex);
    cube.post(books.cube.facts.filter(({ slot }) => slot <= upTo));
  }
  const followed = new Map<string, number>();
  const standIns: { readonly period: PeriodIndex; readonly code: 'noApprovedBudget' | 'noFigures' }[] = [];
  let before = Float64Array.from(chart.accounts, (_, position) => levels.opened(position));
  for (let period = (opening + 1) as PeriodIndex; period < first + YEAR; period = (period + 1) as PeriodIndex) {
    const { income, standIn } = incomeOf(books, plan, { period, levels });
    if (standIn) standIns.push({ period, code: standIn });
    levels.earn(period, income);
    const after = before.slice();
    for (const position of balances) {
      const { rule } = rules.get(position)!;
      const month = { levels, position, period, first, before: before[position]!, owed: loans.get(position)?.get(period)?.balance ?? ZERO };
      const closing = closingUnder(rule, ruleContext(books, month));
      const { number } = chart.accounts[position]!;
      if (closing === null) followed.set(number, (followed.get(number) ?? 0) + 1);
      else after[position] = minor(closing);
    }
    if (rest !== null) after[rest] = minor(after[rest]! - imbalance({ before, after, income, balances, books }));
    levels.close(period, after);
    cube.post(monthFacts(books, { period, before, after, income, balances }));
    before = after;
  }
  const interest = interestOf(books, {
    levels,
    loans: [...loans.values()],
    from: Math.max(first, opening + 1) as PeriodIndex,
    to: first + YEAR,
  });
  const planned = [...loans].map(([position, book]) => ({
    account: chart.accounts[position]!.number,
    months: [...book].flatMap(([period, of]) => (period >= first ? [{ period: period as PeriodIndex, of }] : [])),
  }));
  return {
    cube,
    opensFrom: opening < 0 ? null : (opening as PeriodIndex),
    first,
    cash: cashOf(books, cube, first),
    loans: planned,
    interest,
    days: DAYS_CLASSES.map((of) => ({
      of,
      months: daysOver(
        levels,
        balances.filter((position) => chart.accounts[position]!.class === of),
        { of: USUAL_BASE[of], first, sign: of === 'payables' ? -1 : 1 },
      ),
    })),
    accountDays: new Map(
      balances.flatMap((position) => {
        const account = chart.accounts[position]!;
        const { rule } = rules.get(position)!;
        const of = rule.kind === 'daysOf' ? rule.of : USUAL_BASE[account.class as DaysClass];
        return of ? [[account.number, { of, months: daysOver(levels, [position], { of, first, sign: signOf(account) }) }] as const] : [];
      }),
    ),
    rules: new Map([...rules].map(([position, rule]) => [chart.accounts[position]!.number, rule])),
    issues: [
      ...(rest === null ? [{ code: 'noCash' } as const] : []),
      ...runsOf(standIns),
      ...[...followed].map(([account, months]) => ({ code: 'nothingToFollow', account, months }) as const),
      ...interestIssue(interest, unscheduledDebt(books, { levels, rules, first })),
    ],
  };
}

/** What a rule draws on in a month. */
function ruleContext(
  { chart, calendar }: BudgetBooks,
  month: {
    readonly levels: MonthEndBalances;
    readonly position: number;
    readonly period: PeriodIndex;
    readonly first: PeriodIndex;
    readonly before: number;
    readonly owed: Minor;
  },
): RuleContext {
  const { levels, position, period, first, before, owed } = month;
  return {
    before,
    sign: signOf(chart.accounts[position]!),
    month: calendar.periods[period]!.number - 1,
    isPlanned: period >= first,
    lastYear: { closing: levels.level(position, period - YEAR), opening: levels.level(position, period - YEAR - 1) },
    flows: (base) => levels.flows(base, period),
    daysOfLastYear: (base) => {
      const was = levels.level(position, period - YEAR);
      return was === null ? null : daysOfBalance(was, levels.flows(base, period - YEAR));
    },
    expense: (of) => classTotal(chart, levels.income(period)!, [of]),
    owed: () => owed,
  };
}

type Month = {
  readonly before: Float64Array;
  readonly after: Float64Array;
  readonly income: Float64Array;
  readonly balances: readonly number[];
};

/** What a month's income and movements of balances add up to, debit positive; cash takes it the other way. */
function imbalance({ before, after, income, balances, books }: Month & { readonly books: BudgetBooks }): number {
  const earned = incomePositions(books.chart).reduce((sum, position) => sum + income[position]!, 0);
  return balances.reduce((sum, position) => sum + after[position]! - before[position]!, earned);
}

/** A month of the plan as amounts of a cube, in its first slot. */
function monthFacts(
  { chart, calendar }: BudgetBooks,
  { period, before, after, income, balances }: Month & { readonly period: PeriodIndex },
): BalanceFact[] {
  const slot = firstSlot(calendar, period);
  const fact = (account: number, amount: number): BalanceFact[] =>
    amount === 0 ? [] : [{ account, slot, combination: {}, layer: 'ordinary', amount: minor(amount) }];
  return [
    ...incomePositions(chart).flatMap((position) => fact(position, income[position]!)),
    ...balances.flatMap((position) => fact(position, after[position]! - before[position]!)),
  ];
}

/** Cash when the year opens and at each of its month ends. */
function cashOf({ chart, calendar }: BudgetBooks, cube: BalanceCube, first: PeriodIndex): RolledForward['cash'] {
  const slab = cube.slab(NO_FILTER);
  const at = (period: number): Minor =>
    period < 0
      ? ZERO
      : chart.accounts.reduce<Minor>(
          (sum, account, position) =>
            account.class === 'cash' ? minor(sum + slab.closing(position, lastSlot(calendar, period as PeriodIndex))) : sum,
          ZERO,
        );
  return { opening: at(first - 1), months: Array.from({ length: YEAR }, (_, month) => at(first + month)) };
}

/** Months that something stood in for, by what it was. */
function runsOf(
  standIns: readonly { readonly period: PeriodIndex; readonly code: 'noApprovedBudget' | 'noFigures' }[],
): BalancePlanIssue[] {
  return (['noApprovedBudget', 'noFigures'] as const).flatMap((code) => {
    const periods = standIns.flatMap((each) => (each.code === code ? [each.period] : []));
    return periods.length === 0 ? [] : [{ code, from: periods[0]!, to: periods.at(-1)! }];
  });
}

/** How many days of a flow accounts together stand for at each month end of a year. */
function daysOver(
  levels: MonthEndBalances,
  positions: readonly number[],
  { of, first, sign }: { readonly of: DaysBase; readonly first: PeriodIndex; readonly sign: 1 | -1 },
): (number | null)[] {
  return Array.from({ length: YEAR }, (_, month) => {
    const balance = positions.reduce((sum, position) => sum + levels.level(position, first + month)!, 0);
    return daysOfBalance(sign * balance, levels.flows(of, first + month));
  });
}
