import { changeFactor, changeWords } from '../budgets/bases/percent.ts';
import type { AccountClass } from '../chart/account-class.ts';
import { multiplyByDecimal } from '../money/decimal.ts';
import type { Minor } from '../money/minor.ts';
import { roundHalfAway } from '../money/round.ts';
import { balanceOfDays, type MonthlyFlow } from './days-of-flow.ts';
import { LOAN_FORMS, type LoanTerms } from './loan-schedule.ts';

/** What days of a balance are counted in. */
export const DAYS_OF = {
  revenue: { words: 'revenue', classes: ['revenue', 'revenueDeductions'] },
  costOfSales: { words: 'cost of sales', classes: ['costOfSales'] },
  costs: { words: 'cost of sales and operating expenses', classes: ['costOfSales', 'operatingExpenses'] },
} as const satisfies Readonly<Record<string, { readonly words: string; readonly classes: readonly AccountClass[] }>>;
export type DaysBase = keyof typeof DAYS_OF;

/**
 * How a balance-sheet account moves through the months of a plan. Amounts are minor units in the
 * account's shown sign, twelve to a fiscal year; months are 0 to 11.
 */
export type BalanceRule =
  /** what all other movements leave; one account of cash takes it */
  | { readonly kind: 'rest' }
  | { readonly kind: 'stays' }
  /** so many days of a flow, the same in every month, one for each, or `history`: as many as a year before */
  | { readonly kind: 'daysOf'; readonly of: DaysBase; readonly days: readonly string[] | 'history' }
  /** the balance of the same month a year before, changed by a percentage */
  | { readonly kind: 'levelOfLastYear'; readonly change: string }
  /** the net change of the same month a year before, changed by a percentage */
  | { readonly kind: 'movementOfLastYear'; readonly change: string }
  | { readonly kind: 'movements'; readonly months: readonly Minor[] }
  | { readonly kind: 'purchases'; readonly items: readonly Purchase[] }
  /** accumulates what the budget depreciates */
  | { readonly kind: 'depreciation' }
  /** paid back on a schedule from the opening balance, and what is drawn from a month on */
  | ({
      readonly kind: 'loan';
      readonly drawn?: { readonly month: number; readonly amount: Minor };
      /** key of the month at whose end that many payments were left; the month the plan opens from when absent */
      readonly countedFrom?: string;
    } & LoanTerms)
  /** income tax as the budget expenses it, until a month in which all that is owed is paid */
  | { readonly kind: 'tax'; readonly paidIn: readonly number[] };
export type BalanceRuleKind = BalanceRule['kind'];
/** Something bought for use over years, in a month of the plan's year. */
export type Purchase = { readonly name: string; readonly month: number; readonly amount: Minor };

/** What a rule draws on in one month, debit positive. */
export type RuleContext = {
  /** balance at the end of the month before */
  readonly before: number;
  /** +1 where a debit balance shows positive, else -1 */
  readonly sign: 1 | -1;
  /** 0 to 11 in its fiscal year */
  readonly month: number;
  /** whether the month is of the year that is planned, not between the ledger's last and it */
  readonly isPlanned: boolean;
  /** balances a year before, at the month's end and at the end of the month before it; null where there are none */
  readonly lastYear: { readonly closing: number | null; readonly opening: number | null };
  readonly flows: (base: DaysBase) => readonly MonthlyFlow[];
  /** days the balance stood for in the same month a year before; null where there is no flow to count in */
  readonly daysOfLastYear: (base: DaysBase) => number | null;
  /** what accounts of a class take up in the month */
  readonly expense: (of: AccountClass) => number;
  /** what the account's loans owe at the month's end, in the shown sign */
  readonly owed: () => number;
};

type RuleWords = { readonly amount: (amount: Minor) => string; readonly month: (month: number) => string };
type RuleDefinition<Rule> = {
  readonly name: string;
  /** the rule as a sentence */
  readonly words: (rule: Rule, write: RuleWords) => string;
  /** balance at the month's end, debit positive and unrounded; null when what it draws on is not there: the balance stays */
  readonly closing: (rule: Rule, context: RuleContext) => number | null;
};
const changedBy = (amount: number, percent: string): number => multiplyByDecimal(amount, changeFactor(percent)!);

/** The ways a balance may move, in the order they are offered. */
export const BALANCE_RULES: { readonly [Kind in BalanceRuleKind]: RuleDefinition<BalanceRule & { readonly kind: Kind }> } = {
  daysOf: {
    name: 'Days outstanding',
    words: ({ of, days }) =>
      days === 'history'
        ? `Same days of ${DAYS_OF[of].words} as a year earlier`
        : `${new Set(days).size === 1 ? days[0] : `${Math.min(...days.map(Number))} to ${Math.max(...days.map(Number))}`} days of ${DAYS_OF[of].words}`,
    closing: ({ of, days }, context) => {
      const count = days === 'history' ? context.daysOfLastYear(of) : context.sign * Number(days[context.month]);
      return count === null ? null : balanceOfDays(count, context.flows(of));
    },
  },
  levelOfLastYear: {
    name: 'Same balance as last year',
    words: ({ change }) => `Same balance as a year earlier, ${changeWords(change)}`,
    closing: ({ change }, { lastYear }) => (lastYear.closing === null ? null : changedBy(lastYear.closing, change)),
  },
  movementOfLastYear: {
    name: 'Same change as last year',
    words: ({ change }) => `Same change as a year earlier, ${changeWords(change)}`,
    closing: ({ change }, { before, lastYear: { closing, opening } }) =>
      closing === null || opening === null ? null : before + changedBy(closing - opening, change),
  },
  movements: {
    name: 'Entered changes',
    words: ({ months }, { amount }) => `Entered changes of ${amount(sumOf(months))} for the year`,
    closing: ({ months }, { before, sign, month, isPlanned }) => before + (isPlanned ? sign * months[month]! : 0),
  },
  purchases: {
    name: 'Capital purchases',
    words: ({ items }, { amount, month }) =>
      items.length === 0
        ? 'No purchases'
        : items.map((item) => `${item.name} for ${amount(item.amount)} in ${month(item.month)}`).join('; '),
    closing: ({ items }, { before, sign, month, isPlanned }) =>
      before + (isPlanned ? sign * sumOf(items.filter((item) => item.month === month).map((item) => item.amount)) : 0),
  },
  depreciation: {
    name: 'Budgeted depreciation',
    words: () => 'Accumulates budgeted depreciation',
    closing: (_, { before, expense }) => before - expense('depreciation'),
  },
  loan: {
    name: 'Loan schedule',
    words: ({ form, ratePercent, payments, drawn }, { amount, month }) =>
      [
        `Repaid in ${payments === 1 ? 'one month' : `${payments} months`}, ${LOAN_FORMS[form]}, at ${ratePercent}% a year`,
        ...(drawn ? [`${amount(drawn.amount)} borrowed in ${month(drawn.month)}`] : []),
      ].join('; '),
    closing: (_, { sign, owed }) => sign * owed(),
  },
  tax: {
    name: 'Income taxes payable',
    words: ({ paidIn }, { month }) =>
      paidIn.length === 0
        ? 'Budgeted income tax accrues; no payments'
        : `Budgeted income tax accrues, paid in ${[...paidIn]
            .sort((a, b) => a - b)
            .map(month)
            .join(', ')}`,
    closing: ({ paidIn }, { before, month, expense }) => (paidIn.includes(month) ? 0 : before - expense('incomeTax')),
  },
  stays: { name: 'No change', words: () => 'Balance does not change', closing: (_, { before }) => before },
  rest: { name: 'Balancing cash', words: () => 'Balancing account for all cash', closing: (_, { before }) => before },
};
export const BALANCE_RULE_KINDS = Object.keys(BALANCE_RULES) as readonly BalanceRuleKind[];
const definitionOf = (rule: BalanceRule): RuleDefinition<BalanceRule> => BALANCE_RULES[rule.kind] as RuleDefinition<BalanceRule>;

function sumOf(amounts: readonly Minor[]): Minor {
  return amounts.reduce<number>((sum, amount) => sum + amount, 0) as Minor;
}

/** Where a rule takes a balance by the month's end, debit positive minor units; null when what it draws on is not there. */
export function closingUnder(rule: BalanceRule, context: RuleContext): number | null {
  const closing = definitionOf(rule).closing(rule, context);
  return closing === null ? null : roundHalfAway(closing);
}

/** A rule as a sentence: `45 days of revenue`. */
export const balanceRuleWords = (rule: BalanceRule, write: RuleWords): string => definitionOf(rule).words(rule, write);
