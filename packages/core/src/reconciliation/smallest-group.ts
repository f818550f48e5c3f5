import { groupBy } from '../collections/group-by.ts';
import type { DatedLines } from './dated-lines.ts';

/** Beyond these a search by trying would take long, and prove little. */
const MOST_IN_GROUP = 6;
const MOST_TRIED = 18;

/**
 * The smallest group of two lines or more that adds up to an amount: all of one day or of one customer or vendor first,
 * else any of the first eighteen, up to six. Null where none does, or several of the same size do and nothing tells which.
 * @param amount signed; lines of the other sign, as large or larger, or in a proposal already are left out
 * @param places from the first up to, and without, the second
 * @returns places of its lines, in their order
 */
export function smallestGroup(amount: number, lines: DatedLines<unknown>, [from, to]: readonly [number, number]): number[] | null {
  const usable: number[] = [];
  for (let at = from; at < to; at += 1) {
    const each = lines.amount[at]!;
    if (lines.isTaken[at] === 0 && (amount > 0 ? each > 0 && each < amount : each < 0 && each > amount)) usable.push(at);
  }
  if (usable.length < 2) return null;
  return wholeGroup(amount, lines, usable) ?? triedGroup(amount, lines, usable.slice(0, MOST_TRIED));
}

/** All usable lines of a day, of a customer or vendor on a day, or of a customer or vendor, that add up to an amount. */
function wholeGroup(amount: number, lines: DatedLines<unknown>, usable: readonly number[]): number[] | null {
  for (const { of, count } of lines.groups) {
    const sums = new Float64Array(count);
    for (const at of usable) if (of[at]! >= 0) sums[of[at]!]! += lines.amount[at]!;
    // each line is smaller than the amount: a group that reaches it has two at least
    const first = usable.find((at) => of[at]! >= 0 && sums[of[at]!] === amount);
    if (first !== undefined) return usable.filter((at) => of[at] === of[first]);
  }
  return null;
}

/** The only smallest group among a few lines that adds up to an amount. */
function triedGroup(amount: number, lines: DatedLines<unknown>, tried: readonly number[]): number[] | null {
  const amounts = tried.map((at) => lines.amount[at]!);
  // amounts have one sign: what all together do not reach, no group does
  if (Math.abs(amounts.reduce((sum, each) => sum + each, 0)) < Math.abs(amount)) return null;
  // half of the lines gives 512 sums at most; each is looked up among those of the other half
  const half = tried.length >>> 1;
  const [first, second] = [sumsOf(amounts.slice(0, half)), sumsOf(amounts.slice(half))];
  const bySum = groupBy([...second.keys()], (set) => second[set]!);
  let [size, found]: [number, number[]] = [MOST_IN_GROUP, []];
  for (let one = 0; one < first.length; one += 1) {
    for (const other of bySum.get(amount - first[one]!) ?? []) {
      const set = one | (other << half);
      if (memberCount(set) < size) [size, found] = [memberCount(set), []];
      if (memberCount(set) === size) found.push(set);
    }
  }
  return found.length === 1 ? tried.filter((_, at) => (found[0]! >>> at) & 1) : null;
}

/** The sum of every set of some amounts, by the set: bit 0 of its number stands for the first amount. */
function sumsOf(amounts: readonly number[]): Float64Array {
  const sums = new Float64Array(1 << amounts.length);
  amounts.forEach((amount, at) => {
    for (let set = 0; set < 1 << at; set += 1) sums[set | (1 << at)] = sums[set]! + amount;
  });
  return sums;
}

/** How many amounts a set has. */
function memberCount(set: number): number {
  let size = 0;
  for (let left = set; left !== 0; left &= left - 1) size += 1;
  return size;
}
