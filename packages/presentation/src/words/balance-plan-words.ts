import {
  BALANCE_RULES,
  formatAmount,
  longPeriodName,
  type BalancePlanIssue,
  type BalanceRuleIssue,
  type FiscalCalendar,
  type Minor,
} from '@wise-margin/core';

/** What a budgeted balance sheet wants said, in words. */
export function balancePlanIssueWords(
  issue: BalancePlanIssue,
  how: { readonly calendar: FiscalCalendar; readonly exponent: number; readonly year: number },
): string {
  const amount = (value: Minor) => formatAmount(value, { exponent: how.exponent, unit: 'dollars', decimals: how.exponent });
  const name = (period: Parameters<typeof longPeriodName>[1]) => longPeriodName(how.calendar, period);
  switch (issue.code) {
    case 'noApprovedBudget':
      return `No approved budget holds ${issue.from === issue.to ? name(issue.from) : `${name(issue.from)} to ${name(issue.to)}`}. The same months a year before stand in for them until the plan begins.`;
    case 'noFigures':
      return `Nothing is known of ${issue.from === issue.to ? name(issue.from) : `${name(issue.from)} to ${name(issue.to)}`}: no approved budget and no actuals a year before. They bring no income.`;
    case 'nothingToFollow':
      return `Account ${issue.account} stays as it stands in ${issue.months === 1 ? 'one month' : `${issue.months} months`}, for what it follows has no figures there. Give it another rule, or history to follow.`;
    case 'interestDiffers':
      return `The loan schedules ${issue.scheduled === 0 ? 'bear no interest' : `come to ${amount(issue.scheduled)} of interest`}; FY${how.year} budgets ${issue.budgeted === 0 ? 'none' : amount(issue.budgeted)}.${issue.unscheduled.length === 0 ? '' : ` Account ${issue.unscheduled.join(', ')} owes too and has no schedule.`}`;
    case 'noCash':
      return 'The chart has no account of cash, so that nothing can take what is left and the sheet does not balance. Give an account the class Cash.';
  }
}

/** Why an account cannot have a rule, in words. */
export function balanceRuleIssueWords(issue: BalanceRuleIssue): string {
  switch (issue.code) {
    case 'unknownAccount':
      return `The chart has no account ${issue.account}.`;
    case 'notBalance':
      return `Account ${issue.account} is not of the balance sheet. Its months are budgeted in the grid.`;
    case 'notOffered':
      return `Account ${issue.account} cannot have “${BALANCE_RULES[issue.rule].name}”. It can have ${issue.offered.map((kind) => `“${BALANCE_RULES[kind].name}”`).join(', ')}.`;
    case 'takenBy':
      return `Account ${issue.account} has “${BALANCE_RULES[issue.rule].name}” already, and it is taken up once. Give that account another rule first.`;
    case 'takesRest':
      return `Account ${issue.account} takes what all other movements leave. Give another account of cash “${BALANCE_RULES.rest.name}” first.`;
  }
}
