import { describe, expect, it } from 'vitest';

import { ACCOUNT_CLASS_KEYS, classOf } from '../chart/account-class.ts';
import { formatAmount } from '../money/format-amount.ts';
import { type Minor, minor } from '../money/minor.ts';
import { BALANCE_RULE_KINDS, BALANCE_RULES, type BalanceRule, balanceRuleWords, closingUnder, type RuleContext } from './balance-rule.ts';
import { loanFromHistory } from './loan-from-history.ts';
import { loanSchedule } from './loan-schedule.ts';
import type { PlannedRule } from './planned-rules.ts';
import { balanceRuleIssue, balanceRulesFor } from './rule-issue.ts';
import { chart } from './small-balance.ts';

const MONTHS = Array.from({ length: 12 }, (_, month) => month);
const NAMES = ['Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec', 'Jan', 'Feb', 'Mar'];
const write = {
  amount: (amount: Minor) => formatAmount(amount, { exponent: 2, unit: 'dollars' }),
  month: (month: number) => NAMES[month]!,
};
const days = (count: string): readonly string[] => MONTHS.map(() => count);
const EXAMPLES: { readonly [Kind in BalanceRule['kind']]: readonly (readonly [BalanceRule & { readonly kind: Kind }, string])[] } = {
  daysOf: [
    [{ kind: 'daysOf', of: 'revenue', days: 'history' }, 'Same days of revenue as a year earlier'],
    [{ kind: 'daysOf', of: 'costs', days: days('30') }, '30 days of cost of sales and operating expenses'],
    [{ kind: 'daysOf', of: 'costOfSales', days: ['45', ...days('20').slice(1)] }, '20 to 45 days of cost of sales'],
  ],
  levelOfLastYear: [[{ kind: 'levelOfLastYear', change: '-1.5' }, 'Same balance as a year earlier, minus 1.5%']],
  movementOfLastYear: [[{ kind: 'movementOfLastYear', change: '0' }, 'Same change as a year earlier, unchanged']],
  movements: [[{ kind: 'movements', months: MONTHS.map((month) => minor(month * 100)) }, 'Entered changes of 66 for the year']],
  purchases: [
    [{ kind: 'purchases', items: [] }, 'No purchases'],
    [
      {
        kind: 'purchases',
        items: [
          { name: 'Mold', month: 1, amount: minor(90000) },
          { name: 'Van', month: 11, amount: minor(4500000) },
        ],
      },
      'Mold for 900 in May; Van for 45,000 in Mar',
    ],
  ],
  depreciation: [[{ kind: 'depreciation' }, 'Accumulates budgeted depreciation']],
  loan: [
    [{ kind: 'loan', form: 'level', ratePercent: '5.2', payments: 72 }, 'Repaid in 72 months, level payments, at 5.2% a year'],
    [
      { kind: 'loan', form: 'atEnd', ratePercent: '4', payments: 1, drawn: { month: 2, amount: minor(100000) } },
      'Repaid in one month, principal at maturity, at 4% a year; 1,000 borrowed in Jun',
    ],
  ],
  tax: [
    [{ kind: 'tax', paidIn: [11, 2] }, 'Budgeted income tax accrues, paid in Jun, Mar'],
    [{ kind: 'tax', paidIn: [] }, 'Budgeted income tax accrues; no payments'],
  ],
  stays: [[{ kind: 'stays' }, 'Balance does not change']],
  rest: [[{ kind: 'rest' }, 'Balancing account for all cash']],
};
const context = (part: Partial<RuleContext> = {}): RuleContext => ({
  before: 1000,
  sign: 1,
  month: 3,
  isPlanned: true,
  lastYear: { closing: 700, opening: 500 },
  flows: () => [{ amount: 3000, days: 30 }],
  daysOfLastYear: () => 15,
  expense: () => 250,
  owed: () => minor(400),
  ...part,
});

describe('rules of balances', () => {
  it.each(BALANCE_RULE_KINDS.flatMap((kind) => EXAMPLES[kind].map(([rule, words]) => [words, rule] as const)))(
    'say what they do: %s',
    (words, rule) => expect(balanceRuleWords(rule, write)).toBe(words),
  );

  it.each<readonly [string, BalanceRule, Partial<RuleContext>, number | null]>([
    ['days typed, in the shown sign', { kind: 'daysOf', of: 'costs', days: days('10') }, { sign: -1 }, -1000],
    ['days of a year before', { kind: 'daysOf', of: 'revenue', days: 'history' }, {}, 1500],
    ['days without a year before', { kind: 'daysOf', of: 'revenue', days: 'history' }, { daysOfLastYear: () => null }, null],
    ['days of no flow', { kind: 'daysOf', of: 'revenue', days: days('10') }, { flows: () => [] }, null],
    ['the level of a year before, changed', { kind: 'levelOfLastYear', change: '10' }, {}, 770],
    ['the movement of a year before, changed', { kind: 'movementOfLastYear', change: '-50' }, {}, 1100],
    ['nothing a year before', { kind: 'movementOfLastYear', change: '0' }, { lastYear: { closing: 700, opening: null } }, null],
    ['a typed movement', { kind: 'movements', months: MONTHS.map(minor) }, { sign: -1 }, 997],
    ['a typed movement before the plan', { kind: 'movements', months: MONTHS.map(minor) }, { isPlanned: false }, 1000],
    [
      'what is bought in the month',
      { kind: 'purchases', items: [3, 3, 4].map((month) => ({ name: '', month, amount: minor(50) })) },
      {},
      1100,
    ],
    ['depreciation', { kind: 'depreciation' }, {}, 750],
    ['what loans owe', { kind: 'loan', form: 'level', ratePercent: '5', payments: 9 }, { sign: -1 }, -400],
    ['tax owed', { kind: 'tax', paidIn: [2] }, { before: -100 }, -350],
    ['tax paid', { kind: 'tax', paidIn: [3] }, { before: -100 }, 0],
    ['nothing', { kind: 'stays' }, {}, 1000],
  ])('take a balance to %s', (_, rule, part, closing) => expect(closingUnder(rule, context(part))).toBe(closing));

  it('are offered for every class of the balance sheet and no other, each with a name', () => {
    for (const of of ACCOUNT_CLASS_KEYS) {
      const offered = balanceRulesFor(of);
      expect(offered.length > 0, of).toBe(classOf(of).statement === 'balance');
      for (const kind of offered) expect(BALANCE_RULES[kind].name).not.toBe('');
    }
    const allClasses = new Set(ACCOUNT_CLASS_KEYS.flatMap((of) => balanceRulesFor(of)));
    expect([...allClasses].sort()).toEqual([...BALANCE_RULE_KINDS].sort());
  });

  it('are refused where they cannot be', () => {
    const planned = (rule: BalanceRule): PlannedRule => ({ rule, fromHistory: rule, isSet: false });
    const rules = new Map([
      ['1000', planned({ kind: 'rest' })],
      ['1010', planned({ kind: 'stays' })],
      ['2130', planned({ kind: 'tax', paidIn: [] })],
    ]);
    const issue = (account: string, rule: BalanceRule) => balanceRuleIssue(chart, rules, { account, rule });
    expect(issue('9999', { kind: 'stays' })).toEqual({ code: 'unknownAccount', account: '9999' });
    expect(issue('4000', { kind: 'stays' })).toEqual({ code: 'notBalance', account: '4000' });
    expect(issue('3000', { kind: 'tax', paidIn: [] })).toMatchObject({ code: 'notOffered', rule: 'tax' });
    expect(issue('1000', { kind: 'stays' })).toEqual({ code: 'takesRest', account: '1000' });
    expect(issue('1010', { kind: 'rest' })).toBeNull();
    expect(issue('2130', { kind: 'tax', paidIn: [1] })).toBeNull();
    expect(
      balanceRuleIssue({ accounts: [...chart.accounts, { ...chart.accounts[8]!, number: '2140' }] }, rules, {
        account: '2140',
        rule: { kind: 'tax', paidIn: [] },
      }),
    ).toEqual({
      code: 'takenBy',
      rule: 'tax',
      account: '2130',
    });
  });
});

describe('a loan known by how it was paid', () => {
  const owedOf = (principal: number, terms: Parameters<typeof loanSchedule>[1]) =>
    loanSchedule(minor(principal), terms).map(({ balance }) => balance);
  it.each([
    ['3', 24],
    ['5.2', 60],
    ['9.75', 120],
    ['12', 36],
  ])('in level payments at %s %% over %i months', (ratePercent, payments) => {
    const owed = owedOf(100_000_00, { form: 'level', ratePercent, payments });
    for (const paid of [8, 12])
      expect(loanFromHistory(owed.slice(0, paid), '0')).toEqual({ kind: 'loan', form: 'level', ratePercent, payments: payments - paid });
  });
  it('in level parts, at the rate given', () =>
    expect(loanFromHistory(owedOf(24_000_00, { form: 'straight', ratePercent: '6', payments: 24 }).slice(0, 9), '6')).toEqual({
      kind: 'loan',
      form: 'straight',
      ratePercent: '6',
      payments: 15,
    }));
  it.each([
    ['that was drawn on again', [900, 800, 700, 900, 800, 700, 600]],
    ['that is paid at will', [10_000, 9_000, 7_500, 7_000, 5_000, 4_800, 4_000]],
    ['that is paid off', [600, 500, 400, 300, 200, 100, 0]],
    ['of too few months', [900, 800, 700]],
  ])('is not one %s', (_, owed) => expect(loanFromHistory(owed.map(minor), '5')).toBeNull());
});
