import type { WorksheetIssue } from '@wise-margin/core';

/** Why a change to a budget was refused, and what to do; the account and what was typed stand before it. */
export function worksheetIssueWords(issue: WorksheetIssue): string {
  switch (issue.code) {
    case 'notAnAmount':
      return 'is not an amount. Enter an amount such as 1,250, (500), 12k or 1.2m, or a change such as +5%, *1.1 or /12';
    case 'tooManyDecimals':
      return 'has more decimals than the currency. Round it';
    case 'divisionByZero':
      return 'divides by zero. Write another divisor';
    case 'tooLarge':
      return 'is past the largest amount, 90,000,000,000,000. Check for extra digits';
    case 'budgetTooLarge':
      return 'would bring the amounts of the budgetpast 90,000,000,000,000. Check for extra digits';
    case 'unknownAccount':
      return 'there is no such account in the chart. Correct the number';
    case 'notBudgeted':
      return 'this is a balance-sheet account. Choose an income statement account';
    case 'allMonthsHeld':
      return 'every month has a manual override. Remove one of them, or enter the months themselves';
    case 'noLines':
      return 'there is no line to change. Choose an account';
    case 'severalLines':
      return 'the row combines several lines. Choose one department above the grid first';
    case 'mixedSigns':
      return 'the accounts have amounts of both signs, so a total cannot be allocated to them. Enter the accounts separately';
    case 'circle':
      return `these lines would depend on each other: ${issue.accounts.join(', then ')}. Choose another basis for one of them`;
  }
}
