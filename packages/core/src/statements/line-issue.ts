import type { ExpressionIssue } from './expression.ts';

/** An error in a line's definition: the line by its key, and the name or number at fault. */
export type LineIssue = {
  readonly line: string;
  readonly code:
    | 'repeatedKey'
    | 'unknownLine'
    | 'circular'
    | 'unknownSection'
    | 'unknownDimension'
    | 'absentAccounts'
    /** accounts of both normal balances, and none is chosen for the line */
    | 'mixedBalances'
    | 'formula'
    | 'unfinished';
  readonly token: string;
  readonly formula?: ExpressionIssue;
};
