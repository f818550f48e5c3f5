import { type AccountClass, classOf, type Polarity } from './account-class.ts';

export type Account = {
  readonly number: string;
  readonly name: string;
  readonly class: AccountClass;
  /** the caption under which a statement gathers the account; null: it stands under its own name */
  readonly group: string | null;
  readonly active: boolean;
  /** overrides the class's polarity */
  readonly polarity: Polarity | null;
  /** the category in the statement of cash flows, as the accounts file says it */
  readonly cashflow: string | null;
};

/** The accounts of a company. An account's position in `accounts` is its row in the balance cube and never changes. */
export type Chart = { readonly accounts: readonly Account[] };

/** +1 when a debit balance shows positive, -1 when a credit balance does. */
export function signOf(account: Account): 1 | -1 {
  return classOf(account.class).natural === 'debit' ? 1 : -1;
}

export function polarityOf(account: Account): Polarity {
  return account.polarity ?? classOf(account.class).polarity;
}

export const isIncomeAccount = (account: Account): boolean => classOf(account.class).statement === 'income';
export const isBalanceAccount = (account: Account): boolean => classOf(account.class).statement === 'balance';

/** Chart positions of all income accounts: what earnings are made of. */
export function incomePositions(chart: Chart): number[] {
  return chart.accounts.flatMap((account, index) => (isIncomeAccount(account) ? [index] : []));
}
