import type { Account } from '@wise-margin/core';

import type { Books } from '../companies/index.ts';
import { refused } from '../http/problem.ts';
import type { CashAccount } from './statement-store.ts';

/** Accounts that can be reconciled with a bank, in the order of the chart. */
export const cashAccounts = ({ chart }: Books): Account[] => chart.accounts.filter((account) => account.class === 'cash');

/** A cash account by its number. @throws ProblemError 422 for any other */
export function cashAccountOf(books: Books, number: string): CashAccount & { readonly name: string } {
  const position = books.chart.accounts.findIndex((account) => account.number === number);
  const account = books.chart.accounts[position];
  if (!account || account.class !== 'cash')
    throw refused(
      `${number} is not a cash account. Choose one of ${cashAccounts(books)
        .map((each) => `${each.number} ${each.name}`)
        .join(', ')}.`,
      'account',
    );
  return { company: books.id, accountId: books.accountIds[position]!, name: account.name };
}
