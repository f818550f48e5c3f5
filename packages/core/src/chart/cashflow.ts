import type { AccountClass } from './account-class.ts';
import type { Account } from './account.ts';

/** Which part of the statement of cash flows a balance-sheet account's changes belong to. */
export const CASH_FLOW_CATEGORIES = ['operating', 'investing', 'financing'] as const;
export type CashFlowCategory = (typeof CASH_FLOW_CATEGORIES)[number];

const BY_CLASS: Readonly<Partial<Record<AccountClass, CashFlowCategory>>> = {
  receivables: 'operating',
  inventory: 'operating',
  otherCurrentAssets: 'operating',
  fixedAssets: 'investing',
  accumulatedDepreciation: 'operating',
  otherAssets: 'investing',
  payables: 'operating',
  shortTermDebt: 'financing',
  otherCurrentLiabilities: 'operating',
  longTermDebt: 'financing',
  otherLiabilities: 'operating',
  capital: 'financing',
  dividends: 'financing',
};

/**
 * An account's cash-flow category: what its file says, else what its class is. Null for cash itself,
 * for retained earnings, and for income accounts, whose result is one line of the statement.
 */
export function cashFlowCategoryOf(account: Account): CashFlowCategory | null {
  const byClass = BY_CLASS[account.class] ?? null;
  if (byClass === null) return null;
  const own = account.cashflow?.trim().toLowerCase();
  return CASH_FLOW_CATEGORIES.find((category) => category === own) ?? byClass;
}
