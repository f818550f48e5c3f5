import { isIncomeAccount, type Chart } from '../chart/account.ts';
import type { StatementPlan } from './plan.ts';

/** How the accounts of a chart stand in the lines of a statement; accounts are chart positions. */
export type Coverage = {
  /** with a balance, and in no line */
  readonly inNone: readonly number[];
  /** in more than one line that shows accounts of its own, without a filter that would part them */
  readonly inSeveral: readonly { readonly account: number; readonly lines: readonly string[] }[];
};

/**
 * Which accounts a statement leaves out or takes twice. Only accounts of the kind the statement shows
 * (of income, of the balance sheet, or both) are missed.
 * @param hasBalance by chart position, whether anything was posted to the account
 */
export function coverageOf(plan: StatementPlan, chart: Chart, hasBalance: readonly boolean[]): Coverage {
  const lines = new Map<number, string[]>();
  for (const line of plan.lines) {
    if (line.kind !== 'accounts' || line.source.kind !== 'accounts' || line.filter !== plan.noFilter) continue;
    for (const account of line.source.accounts) lines.set(account, [...(lines.get(account) ?? []), line.key]);
  }
  const taken = [...lines.keys()].map((account) => isIncomeAccount(chart.accounts[account]!));
  const wants = (account: number): boolean => taken.includes(isIncomeAccount(chart.accounts[account]!));
  return {
    inNone: chart.accounts.flatMap((_, account) => (hasBalance[account] && wants(account) && !lines.has(account) ? [account] : [])),
    inSeveral: [...lines].flatMap(([account, keys]) => (keys.length > 1 ? [{ account, lines: keys }] : [])),
  };
}
