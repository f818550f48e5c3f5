import { type Minor, minor } from '../money/minor.ts';
import type { StatementGrid } from '../statements/evaluate.ts';
import { type FigureSides, type GroupBy, groupLeaves, sumOfLeaves } from '../statements/figure-groups.ts';
import type { LedgerLines, LedgerSide } from './ledger-side.ts';

/** What the parts of a difference can be laid out by. */
type LedgerBy = 'party' | 'source' | 'entry';
export type PartsBy = Exclude<GroupBy, { readonly kind: 'part' }> | { readonly kind: LedgerBy };
/** A part of a difference, in the line's sign. */
export type DifferencePart = {
  /** chart position, period index, value of a dimension, place in the lists of parties or journals (-1 is none), entry number, or `other` */
  readonly key: string;
  readonly compared: Minor;
  readonly base: Minor;
  /** compared less base */
  readonly amount: Minor;
};
export type DifferenceParts = {
  /** largest first; they add up to the difference exactly */
  readonly parts: readonly DifferencePart[];
  /** how many of them make four fifths of the sum of all sizes */
  readonly shown: number;
  readonly total: Minor;
};
/** A key for what a scenario has without saying whose: budgets know no customers, vendors, journals or entries. */
export const OTHER = 'other';
const EXPLAINED = 0.8;

/**
 * A difference laid out. Parts of the scenario that does not know what is asked for stand together as `other`, so that the
 * parts always add up to the difference.
 * @returns null for opening and average balances by month, which have no such parts
 */
export function differenceParts(
  grid: StatementGrid,
  {
    sides,
    ledger,
    lines,
    by,
  }: {
    readonly sides: FigureSides;
    readonly ledger: LedgerLines;
    /** the lines of the ledger behind each side */
    readonly lines: { readonly compared: LedgerSide; readonly base: LedgerSide };
    readonly by: PartsBy;
  },
): DifferenceParts | null {
  const of = (leaves: FigureSides['compared'], own: LedgerSide): Map<string, number> | null => {
    const groups = isLedgerBy(by) ? ledgerGroups(ledger, own, by.kind) : groupsOf(grid, leaves, by);
    if (groups === null) return null;
    const left = sumOfLeaves(leaves) - [...groups.values()].reduce((sum, amount) => sum + amount, 0);
    if (left !== 0) groups.set(OTHER, (groups.get(OTHER) ?? 0) + left);
    return groups;
  };
  const [compared, base] = [of(sides.compared, lines.compared), of(sides.base ?? [], lines.base)];
  if (compared && base && by.kind === 'dimension') {
    setApart(base, { beside: compared, leaves: sides.base ?? [] });
    setApart(compared, { beside: base, leaves: sides.compared });
  }
  return compared && base && partsOf(compared, base);
}

/** A budget that has a dimension nowhere says nothing of its values: what it holds without one is set apart. */
function setApart(
  groups: Map<string, number>,
  { beside, leaves }: { readonly beside: ReadonlyMap<string, number>; readonly leaves: FigureSides['compared'] },
): void {
  const held = groups.get('');
  if (held === undefined || groups.size > 1 || leaves.every(({ source }) => source.scenario === 'actual')) return;
  if ([...beside.keys()].every((key) => key === '')) return;
  groups.delete('');
  groups.set(OTHER, held);
}

const isLedgerBy = (by: PartsBy): by is { readonly kind: LedgerBy } => by.kind === 'party' || by.kind === 'source' || by.kind === 'entry';

/** Parts of the two sides set beside one another, largest first. */
export function partsOf(compared: ReadonlyMap<string, number>, base: ReadonlyMap<string, number>): DifferenceParts {
  const parts = [...new Set([...compared.keys(), ...base.keys()])]
    .map((key): DifferencePart => {
      const [now, before] = [compared.get(key) ?? 0, base.get(key) ?? 0];
      return { key, compared: minor(now), base: minor(before), amount: minor(now - before) };
    })
    .filter(({ compared: now, base: before }) => now !== 0 || before !== 0);
  const total = minor(parts.reduce((sum, { amount }) => sum + amount, 0));
  const ordered = largestFirst(parts);
  return { parts: ordered, shown: fewestExplaining(ordered), total };
}

/** The largest first, whichever way they go. */
const largestFirst = (parts: readonly DifferencePart[]): DifferencePart[] =>
  [...parts].sort((a, b) => Math.abs(b.amount) - Math.abs(a.amount) || a.key.localeCompare(b.key, 'en', { numeric: true }));

/**
 * How many of the parts, largest first, make four fifths of the sum of their sizes, so that a part that offsets the others
 * counts as much as they do; none where every part is zero.
 */
export function fewestExplaining(parts: readonly { readonly amount: number }[], share = EXPLAINED): number {
  const sizes = parts.reduce((sum, { amount }) => sum + Math.abs(amount), 0);
  let reached = 0;
  if (sizes === 0) return 0;
  for (const [at, { amount }] of parts.entries()) {
    reached += Math.abs(amount);
    if (reached >= share * sizes) return at + 1;
  }
  return parts.length;
}

function groupsOf(grid: StatementGrid, leaves: FigureSides['compared'], by: GroupBy): Map<string, number> | null {
  const groups = groupLeaves(grid, leaves, by);
  return groups && new Map(groups.map(({ key, amount }) => [key, amount]));
}

function ledgerGroups({ table }: LedgerLines, { positions, amounts }: LedgerSide, by: LedgerBy): Map<string, number> {
  const sums = new Map<number, number>();
  const values = table[by];
  for (const [at, position] of positions.entries()) {
    const value = values[position]!;
    sums.set(value, (sums.get(value) ?? 0) + amounts[at]!);
  }
  return new Map([...sums].map(([value, amount]) => [String(value), amount]));
}
