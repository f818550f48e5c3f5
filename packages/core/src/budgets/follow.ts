import type { Chart } from '../chart/account.ts';
import { parseAccountList } from '../chart/account-list.ts';
import { selectAccounts } from '../chart/selection.ts';
import type { BasisContext } from './bases/basis-context.ts';
import { type Basis, deriveMonths } from './basis.ts';
import type { PlacedLine } from './budget-books.ts';
import { withAmounts } from './budget-line.ts';
import { isOfLine } from './spread.ts';

/** Chart positions of accounts written as a list, such as `4000-4199`; null when it cannot be read. Kept by chart, for lists are asked for again and again. */
const positionsHeld = new WeakMap<Chart, Map<string, ReadonlySet<number> | null>>();
function positionsOf(chart: Chart, accounts: string): ReadonlySet<number> | null {
  const held = positionsHeld.get(chart) ?? new Map<string, ReadonlySet<number> | null>();
  positionsHeld.set(chart, held);
  const known = held.get(accounts);
  if (known !== undefined) return known;
  const parsed = parseAccountList(accounts);
  const positions = parsed.ok ? new Set(selectAccounts(chart, parsed.list)) : null;
  held.set(accounts, positions);
  return positions;
}

/**
 * Lines of accounts written as a list, other than the follower: those of its own slice, or of every one.
 * Null when the list cannot be read.
 */
export function membersAmong(
  chart: Chart,
  accounts: string,
  { line, lines, wholeCompany }: { readonly line: PlacedLine; readonly lines: Iterable<PlacedLine>; readonly wholeCompany: boolean },
): PlacedLine[] | null {
  const positions = positionsOf(chart, accounts);
  if (positions === null) return null;
  const members: PlacedLine[] = [];
  for (const each of lines) {
    if (each.id !== line.id && positions.has(each.position) && (wholeCompany || each.slice === line.slice)) members.push(each);
  }
  return members;
}

/** The accounts a line follows, or null when its basis stands by itself. */
function followedAccounts(basis: Basis): { readonly accounts: string; readonly wholeCompany: boolean } | null {
  if (basis.kind === 'percentOf')
    return { accounts: basis.accounts, wholeCompany: basis.shared !== undefined || (basis.wholeCompany ?? false) };
  if ((basis.kind === 'typedTotal' || basis.kind === 'yearTotal') && isOfLine(basis.spread))
    return { accounts: basis.spread.accounts, wholeCompany: false };
  return null;
}

/** Whether lines of a basis follow others. */
export const follows = (basis: Basis): boolean => followedAccounts(basis) !== null;

/** Lines that follow others, in the order in which they are derived, and those that lead back to themselves. */
export type FollowOrder = {
  /** each after those it follows; lines on a circle are left out, so that their months stay */
  readonly order: readonly PlacedLine[];
  /** ids of lines on a circle */
  readonly circular: ReadonlySet<number>;
  /** account numbers of the first circle, its beginning again at its end; null without one */
  readonly circle: readonly string[] | null;
};

/** The order in which lines that follow others are derived. */
export function followOrder(chart: Chart, lines: readonly PlacedLine[]): FollowOrder {
  const followers = lines.filter(({ basis }) => follows(basis));
  const order: PlacedLine[] = [];
  const state = new Map<PlacedLine, 'open' | 'done'>();
  const circular = new Set<number>();
  let circle: string[] | null = null;
  const visit = (line: PlacedLine, path: readonly PlacedLine[]): void => {
    if (state.get(line) === 'done') return;
    if (state.get(line) === 'open') {
      const found = path.slice(path.indexOf(line));
      circle ??= [...found, line].map(({ account }) => account);
      for (const { id } of found) circular.add(id);
      return;
    }
    state.set(line, 'open');
    const { accounts, wholeCompany } = followedAccounts(line.basis)!;
    for (const other of membersAmong(chart, accounts, { line, lines: followers, wholeCompany }) ?? []) visit(other, [...path, line]);
    state.set(line, 'done');
    order.push(line);
  };
  for (const line of followers) visit(line, []);
  return { order: order.filter(({ id }) => !circular.has(id)), circular, circle };
}

/**
 * A line brought up to date with those it follows; the same line when its months stay as they are.
 * @param context what its basis draws on by then
 */
export function followedLine(line: PlacedLine, context: BasisContext): PlacedLine {
  const held = new Map(line.months.flatMap((month, index) => (month.held ? [[index, month.amount] as const] : [])));
  const amounts = deriveMonths(line.basis, context, held);
  if (amounts.every((amount, index) => amount === line.months[index]!.amount)) return line;
  return { ...line, months: withAmounts(line.months, amounts) };
}
