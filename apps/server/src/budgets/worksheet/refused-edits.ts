import type { WorksheetRefusal } from '@wise-margin/core';
import { worksheetIssueWords } from '@wise-margin/presentation';

import type { Books } from '../../companies/index.ts';
import { ProblemError } from '../../http/problem.ts';

/** Every edit was rejected: the message is that of the first, the list has all of them with their place. */
export function refusedEdits(books: Books, refusals: readonly WorksheetRefusal[]): ProblemError {
  const errors = refusals.map(({ edit, account, text, issue }) => {
    const known = books.chart.accounts.find(({ number }) => number === account);
    const words = `${account}${known ? ` ${known.name}` : ''}: ${text === '' ? '' : `"${text}" `}${worksheetIssueWords(issue)}.`;
    return { path: `edits.${edit}.text`, message: words };
  });
  return new ProblemError(422, 'Not accepted', errors[0]!.message).at(...errors);
}
