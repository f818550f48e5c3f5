import type { Account } from './account.ts';
import { type AccountClass, classOf } from './account-class.ts';

/** The sections of the statement of cash flows. */
export const CASH_FLOW_CATEGORIES = ['operating', 'investing', 'financing'] as const;
export type CashFlowCategory = (typeof CASH_FLOW_CATEGORIES)[number];

const BY_CLASS: Readonly<Partial<Record<AccountClass, CashFlowCategory>>> = {
  receivables: 'operating',
  inventory: 'operating',
  otherCurrentAssets: 'operating',
  fixedAssets: 'investing',
  accumulatedDepreciation: 'investing',
  otherAssets: 'investing',
  payables: 'operating',
  shortTermDebt: 'financing',
  otherCurrentLiabilities: 'operating',
  longTermDebt: 'financing',
  otherLiabilities: 'operating',
  capital: 'financing',
  dividends: 'financing',
};

const ownCategory = ({ cashflow }: Account): CashFlowCategory | undefined => {
  const own = cashflow?.trim().toLowerCase();
  return CASH_FLOW_CATEGORIES.find((category) => category === own);
};

/**
 * A balance-sheet account's cash-flow category: what its file says, else its class's. Accumulated
 * depreciation always goes with its assets. Null for cash, for retained earnings, and for income accounts.
 */
export function cashFlowCategoryOf(account: Account): CashFlowCategory | null {
  const byClass = BY_CLASS[account.class] ?? null;
  if (byClass === null || account.class === 'accumulatedDepreciation') return byClass;
  return ownCategory(account) ?? byClass;
}

/**
 * The section an income account's result belongs to: `investing` or `financing` for gains and losses
 * whose accounts file says so (a disposal, an early repayment), else `operating`. Null for balance-sheet accounts.
 */
export function resultCategoryOf(account: Account): CashFlowCategory | null {
  return classOf(account.class).statement === 'income' ? (ownCategory(account) ?? 'operating') : null;
}
