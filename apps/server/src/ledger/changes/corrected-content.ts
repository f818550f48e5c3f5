import type { correctionSchema } from '@wise-margin/contract';
import { type BalanceFact, type EntryContent, entryIssues, minor, periodOfEntry } from '@wise-margin/core';
import { entryIssueWords, issuePath } from '@wise-margin/presentation';
import type { z } from 'zod';

import { type Books, periodCode } from '../../companies/index.ts';
import { ProblemError, refused } from '../../http/problem.ts';
import { gainedFacts, type LineSum } from './posted-facts.ts';
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
export function refuseIssues(books: Books, content: EntryContent, before: EntryContent): void {
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

const layerOf = ({ state, kind }: Pick<EntryContent, 'state' | 'kind'>): LineSum['layer'] =>
  state === 'draft' ? 'draft' : kind === 'closing' ? 'closing' : 'ordinary';

/** What balances gain when an entry has another content. */
export function gainedByContents(books: Books, before: EntryContent, after: EntryContent): BalanceFact[] {
  const positions = new Map(books.chart.accounts.map(({ number }, position) => [number, position]));
  const facts = new Map<string, BalanceFact>();
  for (const [content, sign] of [
    [before, -1],
    [after, 1],
  ] as const) {
    const { year, number } = periodOfEntry(content, books.calendar)!;
    const layer = layerOf(content);
    if (layer === 'draft') continue;
    for (const { account, amount, dimensions } of content.lines) {
      const [fact] = gainedFacts(
        { ...books, combinations: new Map([[0, dimensions]]) },
        [],
        [{ position: positions.get(account)!, period_code: periodCode(year, number), combination: 0, layer, amount: sign * amount }],
      );
      if (fact) facts.set(`${facts.size}`, fact);
    }
  }
  return [...facts.values()];
}
