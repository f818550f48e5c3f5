import type { BudgetFileIssue } from '@wise-margin/core';

import { AMOUNT_WORDS } from './import-issue-words.ts';

/** What is wrong with a row of a budget file, and what to write instead. */
export function budgetFileIssueWords(issue: BudgetFileIssue, year: number): { readonly reason: string; readonly fix: string } {
  const near = 'near' in issue && issue.near.length > 0 ? `Did you mean ${issue.near.join(', ')}?` : null;
  switch (issue.code) {
    case 'emptyFile':
      return { reason: 'The file is empty', fix: 'Choose the completed file' };
    case 'missingColumn':
      return { reason: `There is no column "${issue.column}"`, fix: `Add a column named ${issue.column}` };
    case 'repeatedColumn':
      return { reason: `The column "${issue.column}" appears twice`, fix: 'Remove one of them' };
    case 'unknownColumn':
      return {
        reason: `"${issue.column}" is not a column of a budget file`,
        fix: 'Remove it, or rename it to a dimension of the budget',
      };
    case 'cellCount':
      return { reason: 'The row has more or fewer cells than the header', fix: 'Put text that contains commas in quotes' };
    case 'required':
      return { reason: 'The account is empty', fix: 'Write its number' };
    case 'periodLayout':
      return { reason: 'This is not a period', fix: `Write the fiscal year and the number of the month, such as ${year}-01` };
    case 'outsideYear':
      return { reason: `This is not a month of FY${year}`, fix: `Write ${year}-01 to ${year}-12` };
    case 'notBudgeted':
      return { reason: 'This is a balance-sheet account', fix: 'Budgets contain income statement accounts only. Remove the row' };
    case 'repeated':
      return { reason: 'The file has this month of the account twice', fix: 'Keep one of the rows' };
    case 'unknownAccount':
      return { reason: 'There is no such account', fix: near ?? 'Correct the number' };
    case 'unknownValue':
      return { reason: `There is no ${issue.column} with this name`, fix: near ?? 'Use a name from the ledger' };
    case 'amount':
      return AMOUNT_WORDS[issue.issue.code](issue.issue, issue.column);
  }
}
