import type { BalanceRule, Minor } from '@wise-margin/core';
import { describe, expect, it } from 'vitest';

import { type RuleDraft, ruleDraftOf, ruleOf } from './rule-draft.ts';

const MONTHS = ['Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec', 'Jan', 'Feb', 'Mar'];
const how = { exponent: 2, months: MONTHS };
const draft = (rule: BalanceRule): RuleDraft => ruleDraftOf({ rule, days: null }, 2);
const amount = (value: number) => value as Minor;

describe('a rule as it is typed', () => {
  it.each<BalanceRule>([
    { kind: 'daysOf', of: 'costs', days: 'history' },
    { kind: 'daysOf', of: 'revenue', days: MONTHS.map(() => '32.5') },
    { kind: 'daysOf', of: 'costOfSales', days: MONTHS.map((_, month) => String(20 + month)) },
    { kind: 'levelOfLastYear', change: '-1.5' },
    { kind: 'movementOfLastYear', change: '0' },
    { kind: 'movements', months: MONTHS.map((_, month) => amount(month === 3 ? -125050 : 0)) },
    { kind: 'purchases', items: [{ name: 'Kayak mold', month: 4, amount: amount(900000) }] },
    { kind: 'purchases', items: [] },
    { kind: 'loan', form: 'straight', ratePercent: '5.2', payments: 72 },
    { kind: 'loan', form: 'atEnd', ratePercent: '4', payments: 12, drawn: { month: 2, amount: amount(25000000) } },
    { kind: 'tax', paidIn: [2, 5] },
    { kind: 'depreciation' },
    { kind: 'stays' },
    { kind: 'rest' },
  ])('comes back as it was: $kind', (rule) => expect(ruleOf(draft(rule), how)).toEqual({ ok: true, rule }));

  it('begins typed days with those the plan stands at', () => {
    const planned = ruleDraftOf(
      {
        rule: { kind: 'daysOf', of: 'revenue', days: 'history' },
        days: { of: 'revenue', months: MONTHS.map((_, month) => (month < 6 ? 30 : null)) },
      },
      2,
    );
    expect(planned).toMatchObject({ days: 'history', sameDays: '15', monthDays: MONTHS.map((_, month) => (month < 6 ? '30' : '0')) });
  });

  it.each<[string, Partial<RuleDraft>, string]>([
    [
      'days',
      { kind: 'daysOf', days: 'same', sameDays: 'a month' },
      'Days: “a month” is not a number of days. Enter days such as 45 or 32.5.',
    ],
    [
      'days of a month',
      { kind: 'daysOf', days: 'months', monthDays: MONTHS.map((_, month) => (month === 2 ? '' : '3')) },
      'Days of Jun: “”',
    ],
    ['a change', { kind: 'levelOfLastYear', change: 'some' }, 'Changed by percent: “some” is not a percentage.'],
    ['a movement', { kind: 'movements', movements: MONTHS.map((_, month) => (month === 11 ? 'x' : '')) }, 'Mar: “x” is not an amount.'],
    ['a change of nothing', { kind: 'movements', movements: MONTHS.map(() => '+5%') }, 'Apr: “+5%” is not an amount.'],
    ['a purchase without a name', { kind: 'purchases', purchases: [{ name: ' ', month: 0, amount: '5' }] }, 'Purchase 1 has no name.'],
    [
      'a purchase of nothing',
      { kind: 'purchases', purchases: [{ name: 'Mold', month: 0, amount: '0' }] },
      'Mold: “0” is not an amount above zero.',
    ],
    ['a rate', { kind: 'loan', rate: '-2' }, 'Rate: “-2” is not an annual percentage rate.'],
    ['payments', { kind: 'loan', rate: '5', payments: '2.5' }, 'Remaining payments: “2.5” is not a number of months from 1 to 1,200.'],
    [
      'an amount drawn',
      { kind: 'loan', rate: '5', payments: '12', drawnIn: 3, drawn: '' },
      'Amount borrowed: “” is not an amount above zero.',
    ],
  ])('says what is wrong with %s', (_, part, words) => {
    const made = ruleOf({ ...draft({ kind: 'stays' }), ...part }, how);
    expect(made.ok).toBe(false);
    expect(made.ok ? '' : made.fault).toContain(words);
  });
});
