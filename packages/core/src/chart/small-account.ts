import type { Account } from './account.ts';

/** An account for tests, named after its number, without group, polarity or cash-flow category of its own. */
export const account = (number: string, of: Account['class'], more: Partial<Account> = {}): Account => ({
  number,
  name: `Account ${number}`,
  class: of,
  group: null,
  active: true,
  polarity: null,
  cashflow: null,
  ...more,
});
