import { parseAccountList } from '../chart/account-list.ts';
import type { Chart } from '../chart/account.ts';
import { selectAccounts } from '../chart/selection.ts';
import type { BasisContext } from './bases/basis-context.ts';
import { deriveMonths, type Basis } from './basis.ts';
import type { PlacedLine } from './budget-books.ts';
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
  { line, lines, everywhere }: { readonly line: PlacedLine; readonly lines: Iterable<PlacedLine>; readonly everywhere: boolean },
): PlacedLine[] | null {
  const positions = positionsOf(chart, accounts);
  if (positions === null) return null;
  const members: PlacedLine[] = [];
  for (const each of lines) {
    if (each.id !== line.id && positions.has(each.position) && (everywhere || each.slice === line.slice)) members.push(each);
  }
  return members;
}

/** The accounts a line follows, or null when its basis stands by itself. */
function followedAccounts(basis: Basis): { readonly accounts: string; readonly everywhere: boolean } | null {
  if (basis.kind === 'percentOf') return { accounts: basis.accounts, everywhere: basis.everywhere ?? false };
  if ((basis.kind === 'typedTotal' || basis.kind === 'yearTotal') && isOfLine(basis.spread))
    return { accounts: basis.spread.accounts, everywhere: false };
  return null;
}

/** Whether lines of a basis follow others. */
export const follows = (basis: Basis): boolean => followedAccounts(basis) !== null;

/**
 * The order in which lines that follow others are derived: each after those it follows. When they lead back
 * to themselves, the account numbers of the circle instead.
 */
export function followOrder(
  chart: Chart,
  lines: readonly PlacedLine[],
): { readonly ok: true; readonly order: readonly PlacedLine[] } | { readonly ok: false; readonly circle: readonly string[] } {
  const followers = lines.filter(({ basis }) => follows(basis));
  const order: PlacedLine[] = [];
  const state = new Map<PlacedLine, 'open' | 'done'>();
  let circle: string[] | null = null;
  const visit = (line: PlacedLine, path: readonly PlacedLine[]): void => {
    if (circle !== null || state.get(line) === 'done') return;
    if (state.get(line) === 'open') {
      circle = [...path.slice(path.indexOf(line)), line].map(({ account }) => account);
      return;
    }
    state.set(line, 'open');
    const { accounts, everywhere } = followedAccounts(line.basis)!;
    for (const other of membersAmong(chart, accounts, { line, lines: followers, everywhere }) ?? []) visit(other, [...path, line]);
    state.set(line, 'done');
    order.push(line);
  };
  for (const line of followers) visit(line, []);
  return circle === null ? { ok: true, order } : { ok: false, circle };
}

/**
 * A line brought up to date with those it follows; the same line when its months stay as they are.
 * @param context what its basis draws on by then
 */
export function followedLine(line: PlacedLine, context: BasisContext): PlacedLine {
  const held = new Map(line.months.flatMap((month, index) => (month.held ? [[index, month.amount] as const] : [])));
  const amounts = deriveMonths(line.basis, context, held);
  if (amounts.every((amount, index) => amount === line.months[index]!.amount)) return line;
  return { ...line, months: amounts.map((amount, index) => ({ amount, held: held.has(index) })) };
}
