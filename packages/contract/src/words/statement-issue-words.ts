import type { ExpressionIssue, StatementIssue } from '@wise-margin/core';

const FORMULA_WORDS: Readonly<Record<ExpressionIssue['code'], (issue: ExpressionIssue) => readonly [message: string, fix: string]>> = {
  tooLong: () => ['The formula is longer than 2,000 characters', 'Split it over lines of its own and read those'],
  tooDeep: () => ['The formula is nested deeper than 50 parentheses', 'Split it over lines of its own and read those'],
  unexpectedToken: ({ token, at }) => [
    `"${token}" cannot stand at character ${at + 1} of the formula`,
    'Write keys, numbers, + - * / ( ), min, max or abs',
  ],
  unexpectedEnd: () => ['The formula ends too early', 'Close its parentheses and finish its last operation'],
  unknownFunction: ({ token }) => [`There is no function "${token}"`, 'Use min, max or abs'],
};

/** What is wrong in a statement's lines or columns: where, what, and what to do about it. */
export function statementIssueWords(issue: StatementIssue): { readonly place: string; readonly message: string; readonly fix: string } {
  const place =
    issue.of === 'line' ? `Line ${issue.line}` : `Column ${issue.column === '' ? issue.block : `${issue.block}.${issue.column}`}`;
  const say = (message: string, fix: string) => ({ place, message, fix });
  const { token } = issue;
  switch (issue.code) {
    case 'repeatedKey':
      return say(`The key "${token}" is used twice`, 'Give one of them another key');
    case 'unknownLine':
      return say(`There is no line "${token}"`, 'Take the key of a line that is there');
    case 'unknownColumn':
      return say(`There is no column "${token}"`, 'Take the key of a column in the block, or block.column of one that does not repeat');
    case 'circular':
      return say(`It leads back to itself through "${token}"`, 'Take that part out of one of the formulas');
    case 'unknownSection':
      return say(`There is no section "${token}" before it`, 'Name a section that stands above the total, or around it');
    case 'unknownDimension':
      return say(`The ledger has no dimension "${token}"`, 'Take one that lines of the ledger carry');
    case 'absentAccounts':
      return say(`The chart of accounts has no ${token}`, 'Take accounts or groups of this company, or take those out of the line');
    case 'unknownBudget':
      return say(`Budget ${token} is no longer there`, 'Take another budget, or the one that is approved');
    case 'totalOverGaps':
      return say(`There is no total of ${token} that are not in a row`, `Choose ${token} in a row, or leave the total out`);
    case 'oldestLeftOut':
      return say(`The oldest ${token} are not shown; 240 columns is the limit`, 'Repeat over fewer months, or over quarters or years');
    case 'tooManyColumns':
      return say(
        `${Number(token).toLocaleString('en-US')} columns are more than the 240 that are shown`,
        'Repeat over fewer months or values',
      );
    case 'noCommonMonths':
      return say(
        'Its two columns have no months in common',
        'Compare columns over the same months, or over the same months of another year',
      );
    case 'outsideCalendar':
      return say('None of its months lies in a fiscal year that is open', 'Repeat over fewer parts, or step the month');
    case 'formula': {
      const [message, fix] = issue.formula
        ? FORMULA_WORDS[issue.formula.code](issue.formula)
        : ['The formula cannot be read', 'Write it again'];
      return say(message, fix);
    }
  }
}
