import { type CheckFinding, formatAmount, minor } from '@wise-margin/core';

import { nonrecurringWords } from './nonrecurring-words.ts';

/** An item of the budget checks in words. @param month names a month of the fiscal year (0 to 11) */
export function checkWords(finding: CheckFinding, how: { readonly exponent: number; readonly month: (month: number) => string }): string {
  const { month } = how;
  const amount = (value: number) => formatAmount(minor(value), { exponent: how.exponent, unit: 'dollars' });
  const percent = (fraction: number) => `${(fraction * 100).toFixed(1)}%`;
  switch (finding.code) {
    case 'jump':
      return `${amount(finding.budget)} is ${percent(Math.abs(finding.change))} ${finding.change > 0 ? 'above' : 'below'} FY${finding.priorYear}, ${amount(finding.prior)}`;
    case 'season':
      return `${month(finding.month)} is ${percent(finding.share)} of the year, usually ${percent(finding.usual)}`;
    case 'sign':
      return `${amount(finding.budget)} has the opposite sign of FY${finding.priorYear}, ${amount(finding.prior)}`;
    case 'inactive':
      return `${amount(finding.budget)} is budgeted, and the account is inactive`;
    case 'noBudget':
      return `FY${finding.priorYear} has ${amount(finding.prior)}, but nothing is budgeted`;
    case 'zeroMonths':
      return `Nothing in ${finding.months.map(month).join(', ')}, although prior years have amounts in every month`;
    case 'drift':
      return `${percent(finding.share)} of revenue; prior years were ${percent(finding.least)} to ${percent(finding.most)}`;
    case 'nonrecurring': {
      const at = `${month(finding.month)} of FY${finding.year}${finding.entry === null ? ', as budgeted' : `, entry ${finding.entry}`}`;
      return `${amount(finding.amount)} (${at}) is in the base and may not recur. ${nonrecurringWords(finding.reason)}`;
    }
    case 'noCost':
      return `Revenue without cost of sales in ${finding.months.map(month).join(', ')}`;
  }
}
