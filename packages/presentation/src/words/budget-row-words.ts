import type { BudgetRowIssue } from '@wise-margin/core';
import { AMOUNT_WORDS } from './import-issue-words.ts';

/** What is wrong with a row of a budget file, and what to write instead. */
export function budgetRowWords(issue: BudgetRowIssue, year: number): { readonly reason: string; readonly fix: string } {
  const near = 'near' in issue && issue.near.length > 0 ? `Perhaps ${issue.near.join(', ')} is meant` : null;
  switch (issue.code) {
    case 'emptyFile':
      return { reason: 'The file is empty', fix: 'Choose the file that was filled in' };
    case 'missingColumn':
      return { reason: `There is no column "${issue.column}"`, fix: `Add a column named ${issue.column}` };
    case 'repeatedColumn':
      return { reason: `The column "${issue.column}" stands twice`, fix: 'Take one of them out' };
    case 'unknownColumn':
      return {
        reason: `"${issue.column}" is no column of a budget file`,
        fix: 'Take it out, or rename it to a dimension the budget is kept by',
      };
    case 'cellCount':
      return { reason: 'The row has more or fewer cells than the header', fix: 'Put texts with commas in quotes' };
    case 'required':
      return { reason: 'The account is empty', fix: 'Write its number' };
    case 'periodLayout':
      return { reason: 'This is no period', fix: `Write the fiscal year and the number of the month, such as ${year}-01` };
    case 'outsideYear':
      return { reason: `This is no month of FY${year}`, fix: `Write ${year}-01 to ${year}-12` };
    case 'notBudgeted':
      return { reason: 'This is an account of the balance sheet', fix: 'Budgets hold accounts of income; take the row out' };
    case 'repeated':
      return { reason: 'The same month of the account stands in the file twice', fix: 'Keep one of the rows' };
    case 'unknownAccount':
      return { reason: 'There is no such account', fix: near ?? 'Correct the number' };
    case 'unknownValue':
      return { reason: `There is no ${issue.column} of this name`, fix: near ?? 'Write one of those the ledger has' };
    case 'amount':
      return AMOUNT_WORDS[issue.issue.code](issue.issue, issue.column);
  }
}
