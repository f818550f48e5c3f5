import type { Account, Chart } from './account.ts';

const WATCHED = /reconciliation difference|suspense|unallocated|clearing difference/i;

/** Whether an account should have no postings, by its name: reconciliation differences, suspense. */
export const isWatchedAccount = ({ name }: Pick<Account, 'name'>): boolean => WATCHED.test(name);

/** The watched account that forced differences of a bank reconciliation go to: one named for them, else the first. Null where there is none. */
export function differenceAccount({ accounts }: Chart): string | null {
  const watched = accounts.filter((account) => account.active && isWatchedAccount(account));
  return (watched.find(({ name }) => /reconciliation/i.test(name)) ?? watched[0])?.number ?? null;
}
