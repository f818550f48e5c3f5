import type { ExpressionIssue, StatementIssue, StatementPlan } from '@wise-margin/core';

const FORMULA_WORDS: Readonly<Record<ExpressionIssue['code'], (issue: ExpressionIssue) => readonly [message: string, fix: string]>> = {
  tooLong: () => ['The formula is longer than 2,000 characters', 'Split it over lines of its own and read those'],
  tooDeep: () => ['The formula is nested deeper than 50 parentheses', 'Split it over lines of its own and read those'],
  unexpectedToken: ({ token, at }) => [
    `"${token}" cannot be at character ${at + 1} of the formula`,
    'Write keys, numbers, + - * / ( ), min, max or abs',
  ],
  unexpectedEnd: () => ['The formula ends too early', 'Close its parentheses and finish its last operation'],
  unknownFunction: ({ token }) => [`There is no function "${token}"`, 'Use min, max or abs'],
};

/** Names for the keys of lines, blocks and columns; a key without a name stands for itself. */
export type IssueNames = {
  readonly line: (key: string) => string;
  readonly column: (block: string, column: string) => string;
};
const KEYS_ALONE: IssueNames = {
  line: (key) => key,
  column: (block, column) => (column === '' ? block : `${block}.${column}`),
};

/** The names by which a statement shows its lines and columns. */
export function issueNames({ lines, lineOfKey, blocks, columns }: StatementPlan): IssueNames {
  const isOf = (key: string, block: string) => key === block || key.startsWith(`${block}.`);
  return {
    line: (key) => lines[lineOfKey.get(key) ?? -1]?.name || key,
    column: (block, column) => {
      const blockName = blocks.find(({ key }) => isOf(key, block))?.heading || block;
      const found = columns.find(({ key }) => isOf(key, block) && key.endsWith(`.${column}`));
      return column === '' ? blockName : `${found?.heading || column} (${blockName})`;
    },
  };
}

/** What is wrong in a statement's lines or columns: where, what, and what to do about it. */
export function statementIssueWords(
  issue: StatementIssue,
  names: IssueNames = KEYS_ALONE,
): { readonly place: string; readonly message: string; readonly fix: string } {
  const place = issue.of === 'line' ? `Line ${names.line(issue.line)}` : `Column ${names.column(issue.block, issue.column)}`;
  const say = (message: string, fix: string) => ({ place, message, fix });
  const { token } = issue;
  switch (issue.code) {
    case 'repeatedKey':
      return say(`The key "${token}" is used twice`, 'Give one of them another key');
    case 'unknownLine':
      return say(`There is no line "${token}"`, 'Use the formula name of a line in this view');
    case 'unknownColumn':
      return say(`There is no column "${token}"`, 'Choose a column of the same block, or of a block that does not repeat');
    case 'unfinished':
      return say('It is not finished: its formula or its columns are missing', 'Edit the view and fill them in, or remove it');
    case 'circular':
      return say(
        `It refers back to itself through "${issue.of === 'line' ? names.line(token) : token}"`,
        'Remove that reference from one of the formulas',
      );
    case 'unknownSection':
      return say(`There is no section "${names.line(token)}" above it`, 'Choose a section that is above the total, or that contains it');
    case 'unknownDimension':
      return say(`The ledger has no dimension "${token}"`, 'Choose a dimension of this ledger');
    case 'absentAccounts':
      return say(`The chart of accounts has no ${token}`, 'Choose accounts or groups of this company, or remove these from the line');
    case 'mixedBalances':
      return say('Its accounts have both debit and credit normal balances', 'Choose the normal balance of the line');
    case 'unknownBudget':
      return say(`Budget ${token} is no longer there`, 'Choose another budget or the approved one');
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
