import { parseAccountList } from '../chart/account-list.ts';
import { selects } from '../chart/selection.ts';
import type { Account } from '../chart/account.ts';
import type { BasisContext } from './bases/basis-context.ts';
import { deriveMonths } from './basis.ts';
import type { BudgetLine } from './budget-line.ts';

/** A line of a budget with its account. */
export type FollowingLine = BudgetLine & { readonly of: Account };

/** Whether a line counts among accounts written as a list, such as `4000-4199`, in the same slice. */
export function isAmong(accounts: string, line: FollowingLine, follower: FollowingLine): boolean {
  const parsed = parseAccountList(accounts);
  return (
    parsed.ok &&
    selects(parsed.list, line.of) &&
    JSON.stringify(Object.entries(line.dimensions).sort()) === JSON.stringify(Object.entries(follower.dimensions).sort())
  );
}

/**
 * The order in which lines that are a percentage of others are derived: each after those it follows. When
 * they lead back to themselves, the account numbers of the circle instead.
 */
export function followOrder<Line extends FollowingLine>(
  lines: readonly Line[],
): { readonly ok: true; readonly order: readonly Line[] } | { readonly ok: false; readonly circle: readonly string[] } {
  const followers = lines.filter(({ basis }) => basis.kind === 'percentOf');
  const order: Line[] = [];
  const state = new Map<Line, 'open' | 'done'>();
  let circle: string[] | null = null;
  const visit = (line: Line, path: readonly Line[]): void => {
    if (circle !== null || state.get(line) === 'done') return;
    if (state.get(line) === 'open') {
      circle = [...path.slice(path.indexOf(line)), line].map(({ account }) => account);
      return;
    }
    state.set(line, 'open');
    if (line.basis.kind === 'percentOf') {
      const { accounts } = line.basis;
      for (const other of followers) if (isAmong(accounts, other, line)) visit(other, [...path, line]);
    }
    state.set(line, 'done');
    order.push(line);
  };
  for (const line of followers) visit(line, []);
  return circle === null ? { ok: true, order } : { ok: false, circle };
}

/**
 * Lines that follow others brought up to date, in order; those whose months stay as they are are left out.
 * @param contextOf what a line's basis draws on, given the lines as they stand by then
 */
export function followed<Line extends FollowingLine>(
  lines: readonly Line[],
  order: readonly Line[],
  contextOf: (line: Line, now: readonly Line[]) => BasisContext,
): Line[] {
  let now = [...lines];
  const changedLines: Line[] = [];
  for (const line of order) {
    const held = new Map(line.months.flatMap((month, index) => (month.held ? [[index, month.amount] as const] : [])));
    const amounts = deriveMonths(line.basis, contextOf(line, now), held);
    if (amounts.every((amount, index) => amount === line.months[index]!.amount)) continue;
    const next: Line = { ...line, months: amounts.map((amount, index) => ({ amount, held: held.has(index) })) };
    now = now.map((each) => (each === line ? next : each));
    changedLines.push(next);
  }
  return changedLines;
}
