import { type BalancePlanIssue, type BalanceRuleIssue, minor, monthCalendar, type PeriodIndex } from '@wise-margin/core';
import { describe, expect, it } from 'vitest';

import { balancePlanIssueWords, balanceRuleIssueWords } from './balance-plan-words.ts';

const how = { calendar: monthCalendar({ startMonth: 4, firstYear: 2026, lastYear: 2028 }), exponent: 2, year: 2028 };
const period = (index: number) => index as PeriodIndex;

describe('what a budgeted balance sheet wants said', () => {
  it.each<[BalancePlanIssue, string]>([
    [
      { code: 'noApprovedBudget', from: period(19), to: period(23) },
      'No approved budget covers November 2026 to March 2027. The same months of the prior year are used',
    ],
    [{ code: 'noApprovedBudget', from: period(23), to: period(23) }, 'No approved budget covers March 2027.'],
    [{ code: 'noFigures', from: period(19), to: period(23) }, 'Income is zero for these months.'],
    [{ code: 'nothingToFollow', account: '1300', months: 1 }, 'Account 1300 keeps its balance in one month'],
    [{ code: 'nothingToFollow', account: '1300', months: 24 }, 'in 24 months'],
    [
      { code: 'interestDiffers', scheduled: minor(2844766), budgeted: minor(5480000), unscheduled: ['2300'] },
      'The loan schedules come to 28,447.66 in interest; FY2028 budgets 54,800.00. Account 2300 is debt but has no loan schedule.',
    ],
    [
      { code: 'interestDiffers', scheduled: minor(0), budgeted: minor(560000), unscheduled: [] },
      'The loan schedules have no interest; FY2028 budgets 5,600.00.',
    ],
    [{ code: 'interestDiffers', scheduled: minor(100), budgeted: minor(0), unscheduled: [] }, 'FY2028 budgets none.'],
    [{ code: 'noCash' }, 'Assign the class Cash to an account.'],
  ])('%o', (issue, words) => expect(balancePlanIssueWords(issue, how)).toContain(words));
  it.each<[BalanceRuleIssue, string]>([
    [{ code: 'unknownAccount', account: '9' }, 'The chart has no account 9.'],
    [{ code: 'notBalance', account: '4010' }, 'Budget it by month.'],
    [{ code: 'notOffered', account: '1100', rule: 'tax', offered: ['daysOf', 'stays'] }, 'It can have “Days outstanding”, “No change”.'],
    [{ code: 'takenBy', rule: 'depreciation', account: '1590' }, 'Account 1590 has “Budgeted depreciation” already'],
    [{ code: 'takesRest', account: '1010' }, 'Give another cash account “Balancing cash” first.'],
  ])('%o', (issue, words) => expect(balanceRuleIssueWords(issue)).toContain(words));
});
