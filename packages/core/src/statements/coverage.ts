import { type Chart, isIncomeAccount } from '../chart/account.ts';
import { linesRead } from './expression.ts';
import type { PlannedLine } from './planned-line.ts';
import type { StatementPlan } from './statement-plan.ts';

/** How the accounts of a chart stand in the lines of a statement; accounts are chart positions. */
export type Coverage = {
  /** how many accounts with a balance are in a line */
  readonly held: number;
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
    held: [...lines.keys()].filter((account) => hasBalance[account]).length,
    inNone: chart.accounts.flatMap((_, account) => (hasBalance[account] && wants(account) && !lines.has(account) ? [account] : [])),
    inSeveral: [...lines].flatMap(([account, keys]) => (keys.length > 1 ? [{ account, lines: keys }] : [])),
  };
}

/** The accounts a line is made of, through totals and formulas. A formula that leads back to itself is followed once. */
function accountsReached(plan: StatementPlan, start: number): ReadonlySet<number> {
  const reached = new Set<number>();
  const seen = new Set<number>();
  const visit = (index: number): void => {
    if (seen.has(index)) return;
    seen.add(index);
    const { source } = plan.lines[index]!;
    if (source.kind === 'accounts' || source.kind === 'slice') for (const account of source.accounts) reached.add(account);
    else if (source.kind === 'members') source.lines.forEach(visit);
    else if (source.kind === 'expression')
      for (const key of linesRead(source.expression)) {
        const read = plan.lineOfKey.get(key);
        if (read !== undefined) visit(read);
      }
  };
  visit(start);
  return reached;
}

const showsAmounts = ({ kind, source, hidden, depth }: PlannedLine): boolean =>
  !hidden && depth === 0 && (kind === 'total' || kind === 'accounts' || (source.kind === 'expression' && source.result === 'amount'));

/**
 * The line that a view of income ends in as its net income: the last one with amounts, where it draws on every class of
 * income and expense accounts with postings. Null for a view of balances, and for one that ends sooner, as in gross profit.
 * @param hasBalance by chart position, whether anything was posted to the account
 */
export function bottomOfIncome(plan: StatementPlan, chart: Chart, hasBalance: readonly boolean[]): PlannedLine | null {
  const bottom = plan.lines.findLast(showsAmounts);
  if (!bottom || plan.lines.some((line) => line.holdsBalances)) return null;
  const reached = new Set([...accountsReached(plan, bottom.index)].map((account) => chart.accounts[account]!.class));
  const posted = chart.accounts.filter((account, index) => hasBalance[index] && isIncomeAccount(account));
  return posted.length > 0 && posted.every((account) => reached.has(account.class)) ? bottom : null;
}
