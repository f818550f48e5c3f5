import { nearMatches, parseAccountList, selects } from '@wise-margin/core';

import { refused } from '../http/problem.ts';
import type { Books } from './books.ts';

/**
 * Chart positions of the accounts in a typed list such as `4000-4999, 6100`; null when it is empty.
 * @throws ProblemError 422 for a part that names no account, with what is near
 */
export function typedAccounts(books: Books, text: string): ReadonlySet<number> | null {
  if (text === '') return null;
  const parsed = parseAccountList(text);
  if (!parsed.ok) throw refused(`"${parsed.part}" is not an account or a range of accounts. Enter them like 4000-4999, 6100.`, 'accounts');
  const { ranges = [], accounts = [] } = parsed.list;
  const { accounts: chart } = books.chart;
  const numbers = chart.map(({ number }) => number);
  const empty = [
    ...ranges.flatMap((range) => (chart.some((account) => selects({ ranges: [range] }, account)) ? [] : [`${range.from}-${range.to}`])),
    ...accounts.filter((number) => !numbers.includes(number)),
  ];
  if (empty.length > 0) {
    const sorted = [...numbers].sort((a, b) => a.localeCompare(b, 'en', { numeric: true }));
    const near = [...new Set(empty.flatMap((part) => part.split('-').flatMap((end) => nearMatches(end, sorted))))];
    throw refused(
      `No account is ${empty.join(' or ')}. ${near.length > 0 ? `Near: ${near.slice(0, 8).join(', ')}.` : `Accounts run from ${sorted[0]} to ${sorted.at(-1)}.`}`,
      'accounts',
    );
  }
  return new Set(chart.flatMap((account, position) => (selects({ ranges, accounts }, account) ? [position] : [])));
}
