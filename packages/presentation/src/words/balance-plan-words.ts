import {
  BALANCE_RULES,
  type BalancePlanIssue,
  type BalanceRuleIssue,
  type FiscalCalendar,
  formatAmount,
  longPeriodName,
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
      return `No approved budget covers ${issue.from === issue.to ? name(issue.from) : `${name(issue.from)} to ${name(issue.to)}`}. The same months of the prior year are used until the budget starts.`;
    case 'noFigures':
      return `There are no amounts for ${issue.from === issue.to ? name(issue.from) : `${name(issue.from)} to ${name(issue.to)}`}: no approved budget and no actuals a year earlier. Income is zero for these months.`;
    case 'nothingToFollow':
      return `Account ${issue.account} keeps its balance in ${issue.months === 1 ? 'one month' : `${issue.months} months`}because its basis has no amounts there. Choose another method.`;
    case 'interestDiffers':
      return `The loan schedules ${issue.scheduled === 0 ? 'have no interest' : `come to ${amount(issue.scheduled)} in interest`}; FY${how.year} budgets ${issue.budgeted === 0 ? 'none' : amount(issue.budgeted)}.${issue.unscheduled.length === 0 ? '' : ` Account ${issue.unscheduled.join(', ')} is debt but has no loan schedule.`}`;
    case 'noCash':
      return 'The chart has no cash account, so the balance sheet cannot balance. Assign the class Cash to an account.';
  }
}

/** Why an account cannot have a rule, in words. */
export function balanceRuleIssueWords(issue: BalanceRuleIssue): string {
  switch (issue.code) {
    case 'unknownAccount':
      return `The chart has no account ${issue.account}.`;
    case 'notBalance':
      return `Account ${issue.account} is not a balance-sheet account. Budget it by month.`;
    case 'notOffered':
      return `Account ${issue.account} cannot have “${BALANCE_RULES[issue.rule].name}”. It can have ${issue.offered.map((kind) => `“${BALANCE_RULES[kind].name}”`).join(', ')}.`;
    case 'takenBy':
      return `Account ${issue.account} has “${BALANCE_RULES[issue.rule].name}” already, and only one account can have it. Choose another method for that account first.`;
    case 'takesRest':
      return `Account ${issue.account} is the balancing cash account. Give another cash account “${BALANCE_RULES.rest.name}” first.`;
  }
}
