import type { EntryEffectDto } from '@wise-margin/contract';
import { type BalanceFact, changeEffect, shortPeriodName } from '@wise-margin/core';

import type { Books } from '../../companies/index.ts';

/** What accounts and statements gain, in the shown signs. */
export function effectDto(
  books: Books,
  facts: readonly BalanceFact[],
  counts: Pick<EntryEffectDto, 'entries' | 'lines' | 'closed'>,
): EntryEffectDto {
  const { accounts, lines } = changeEffect(facts, books);
  return {
    ...counts,
    accounts: accounts.map(({ account, period, change }) => {
      const { number, name } = books.chart.accounts[account]!;
      return { number, name, month: shortPeriodName(books.calendar, period), change };
    }),
    statementLines: lines.map(({ period, ...line }) => ({ ...line, month: shortPeriodName(books.calendar, period) })),
  };
}
