import type { Account } from '../chart/account.ts';
import { cashFlowCategoryOf, resultCategoryOf } from '../chart/cashflow.ts';

/** What an account is to the statement of cash flows. */
export type CashFlowRole =
  | 'cash'
  | 'operatingAsset'
  | 'operatingLiability'
  | 'asset'
  | 'accumulatedDepreciation'
  | 'financing'
  | 'retainedEarnings'
  | 'depreciationExpense'
  | 'investingResult'
  | 'financingResult'
  | 'income'
  | 'none';

const LIABILITIES = new Set<Account['class']>(['payables', 'otherCurrentLiabilities', 'otherLiabilities', 'shortTermDebt', 'longTermDebt']);

/** An account's role; `none` for statistics. */
export function cashFlowRoleOf(account: Account): CashFlowRole {
  if (account.class === 'cash' || account.class === 'retainedEarnings' || account.class === 'accumulatedDepreciation') return account.class;
  const category = cashFlowCategoryOf(account);
  if (category === 'investing') return 'asset';
  if (category === 'financing') return 'financing';
  if (category === 'operating') return LIABILITIES.has(account.class) ? 'operatingLiability' : 'operatingAsset';
  const result = resultCategoryOf(account);
  if (result === null) return 'none';
  if (result !== 'operating') return `${result}Result`;
  return account.class === 'depreciation' ? 'depreciationExpense' : 'income';
}

/** Roles whose entries are read one by one; all other entries change operating balances and income only. */
export const CAPITAL_ROLES: ReadonlySet<CashFlowRole> = new Set<CashFlowRole>([
  'asset',
  'accumulatedDepreciation',
  'financing',
  'retainedEarnings',
  'depreciationExpense',
  'investingResult',
  'financingResult',
]);
