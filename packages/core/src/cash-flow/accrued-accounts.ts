import type { Chart } from '../chart/account.ts';
import type { AccountClass } from '../chart/account-class.ts';
import { cashFlowRoleOf } from './account-role.ts';
import type { LedgerLine } from './cash-flow-history.ts';

/**
 * Operating balances that only ever hold what is due (or prepaid) of one expense: every entry without
 * cash that touches them also touches an account of the class, so their change tells when it was paid.
 * @param entries every entry that touches one of these balances or an account of the class
 * @returns chart positions
 */
export function accruedAccounts(chart: Chart, of: AccountClass, entries: Iterable<readonly LedgerLine[]>): number[] {
  const roles = chart.accounts.map(cashFlowRoleOf);
  const isOperating = (account: number) => roles[account] === 'operatingAsset' || roles[account] === 'operatingLiability';
  const withExpense = new Set<number>();
  const without = new Set<number>();
  for (const lines of entries) {
    const touched = lines.filter(({ account }) => isOperating(account)).map(({ account }) => account);
    if (touched.length === 0 || lines.some(({ account }) => roles[account] === 'cash' || roles[account] === 'retainedEarnings')) continue;
    const accrues = lines.some(({ account }) => chart.accounts[account]!.class === of);
    for (const account of touched) (accrues ? withExpense : without).add(account);
  }
  return [...withExpense].filter((account) => !without.has(account)).sort((a, b) => a - b);
}
