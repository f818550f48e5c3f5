import { groupBy } from '../collections/group-by.ts';

/** Beyond these a search by trying would take long, and prove little. */
const MOST_IN_GROUP = 6;
const MOST_TRIED = 18;

type Grouped = { readonly day: number; readonly line: { readonly amount: number; readonly party: string } };

/**
 * The smallest group of two lines or more that adds up to an amount: all of one day or of one customer or vendor first,
 * else any of the first eighteen, up to six. Null where none does, or several of the same size do and nothing tells which.
 * @param amount signed; lines of the other sign are left out
 */
export function smallestGroup<Line extends Grouped>(amount: number, lines: readonly Line[]): Line[] | null {
  const usable = lines.filter(
    ({ line }) => line.amount !== 0 && line.amount > 0 === amount > 0 && Math.abs(line.amount) < Math.abs(amount),
  );
  for (const keyOf of [({ day }: Line) => String(day), ({ day, line }: Line) => `${day} ${line.party}`, ({ line }: Line) => line.party]) {
    for (const [key, group] of groupBy(usable, keyOf))
      if (key !== '' && group.length > 1 && group.reduce((sum, { line }) => sum + line.amount, 0) === amount) return group;
  }
  const tried = usable.slice(0, MOST_TRIED);
  for (let size = 2; size <= Math.min(MOST_IN_GROUP, tried.length); size += 1) {
    const groups = groupsOf(amount, tried, size);
    if (groups.length > 0) return groups.length === 1 ? groups[0]! : null;
  }
  return null;
}

/** At most two groups of a size that add up: whether there is one, and whether it is the only one. */
function groupsOf<Line extends Grouped>(amount: number, lines: readonly Line[], size: number): Line[][] {
  const found: Line[][] = [];
  const extend = (group: readonly Line[], from: number, left: number): void => {
    if (found.length > 1) return;
    if (group.length === size) return void (left === 0 && found.push([...group]));
    for (let at = from; at <= lines.length - (size - group.length); at += 1) {
      const next = lines[at]!;
      // amounts have one sign: what would pass the sum cannot come back
      if (Math.abs(next.line.amount) <= Math.abs(left)) extend([...group, next], at + 1, left - next.line.amount);
    }
  };
  extend([], 0, amount);
  return found;
}
