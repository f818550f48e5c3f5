import type { correctionSchema } from '@wise-margin/contract';
import { type BalanceFact, type EntryContent, entryIssues, minor, periodOfEntry, slotOfYear } from '@wise-margin/core';
import { entryIssueWords, issuePath } from '@wise-margin/presentation';
import type { z } from 'zod';

import type { Books } from '../../companies/index.ts';
import { ProblemError, refused } from '../../http/problem.ts';
import type { StoredContent } from './stored-entries.ts';

/** A content as it was sent: its amounts are whole minor units, as the contract has them. */
export const contentOf = (content: z.infer<typeof correctionSchema>['content']): EntryContent => ({
  ...content,
  lines: content.lines.map((line) => ({ ...line, amount: minor(line.amount) })),
});

/** Lines without a number in the database take those of the lines at their places. */
export const withLineIds = (content: EntryContent, before: StoredContent): StoredContent => ({
  ...content,
  lines: content.lines.map((line, place) => ({ ...line, id: before.lines[place]?.id ?? null })),
});

/** @throws ProblemError 422 naming every field that keeps the entry from being posted */
export function refuseIssues(books: Books, content: EntryContent, before: EntryContent | null): void {
  const known = new Set(books.dimensions.map(({ name }) => name));
  const strange = content.lines.flatMap(({ dimensions }) => Object.keys(dimensions).filter((name) => !known.has(name)))[0];
  if (strange !== undefined)
    throw refused(`The ledger has no dimension "${strange}". It has: ${[...known].join(', ') || 'none'}.`, 'content.lines');
  const issues = entryIssues(content, books, before);
  if (issues.length === 0) return;
  const errors = issues.map((issue) => ({
    path: issuePath(issue),
    message: `${issue.line === null ? '' : `Line ${issue.line + 1}: `}${entryIssueWords(issue, books.currency)}`,
  }));
  throw new ProblemError(422, 'Not accepted', errors.map(({ message }) => message).join(' ')).at(...errors);
}

/** What balances gain when an entry has another content. */
export function gainedByContents(books: Books, before: EntryContent, after: EntryContent): BalanceFact[] {
  return [...factsOf(books, before, -1), ...factsOf(books, after, 1)];
}

/** The lines of a content as balances hold them; those of a draft are in none. */
export function factsOf({ chart, calendar }: Books, content: EntryContent, sign: 1 | -1): BalanceFact[] {
  if (content.state === 'draft') return [];
  const { year, number } = periodOfEntry(content, calendar)!;
  const slot = slotOfYear(calendar, year, number)!;
  const layer = content.kind === 'closing' ? 'closing' : 'ordinary';
  return content.lines.map(({ account, amount, dimensions }) => ({
    account: chart.accounts.findIndex((each) => each.number === account),
    slot,
    combination: dimensions,
    layer,
    amount: minor(sign * amount),
  }));
}
