import { type Minor, minor } from '../money/minor.ts';
import type { LineTable } from './line-table.ts';

/** What lines are looked for; what is left out is not asked. Both ends of a range count. */
export type LineQuery = {
  readonly days?: { readonly from: number; readonly to: number };
  readonly slots?: { readonly from: number; readonly to: number };
  /** chart positions */
  readonly accounts?: ReadonlySet<number>;
  readonly combinations?: ReadonlySet<number>;
  /** -1 takes lines without a party */
  readonly parties?: ReadonlySet<number>;
  readonly sources?: ReadonlySet<number>;
  /** bounds of the amount without its sign, in minor units */
  readonly least?: number;
  readonly most?: number;
  /** words that all stand in a line's text, upper and lower case alike */
  readonly text?: string;
  readonly origin?: 'import' | 'manual';
  readonly state?: 'posted' | 'draft';
};
export type LineSort = { readonly by: 'date' | 'account' | 'party' | 'amount' | 'source'; readonly descending: boolean };
export type LineTotals = {
  readonly lines: number;
  readonly entries: number;
  readonly debits: Minor;
  /** without a sign */
  readonly credits: Minor;
};

/** Positions of the lines that match, in order of date. */
export function findLines(table: LineTable, query: LineQuery): Int32Array {
  const { days } = query;
  const first = days ? firstFrom(table.day, days.from) : 0;
  const end = days ? firstFrom(table.day, days.to + 1) : table.count;
  const found = new Int32Array(Math.max(end - first, 0));
  const checks = checksOf(table, query);
  let count = 0;
  positions: for (let position = first; position < end; position += 1) {
    for (const check of checks) if (!check(position)) continue positions;
    found[count++] = position;
  }
  return found.slice(0, count);
}

/** What a line has to pass, each part of the query that is asked by itself. */
function checksOf(table: LineTable, query: LineQuery): readonly ((position: number) => boolean)[] {
  const { slots, least = 0, most = Infinity, text, origin, state } = query;
  const checks: ((position: number) => boolean)[] = [];
  if (slots) checks.push((position) => table.slot[position]! >= slots.from && table.slot[position]! <= slots.to);
  for (const name of ['accounts', 'combinations', 'parties', 'sources'] as const) {
    const wanted = query[name];
    if (!wanted) continue;
    const mask = maskOf(wanted);
    const values = { accounts: table.account, combinations: table.combination, parties: table.party, sources: table.source }[name];
    checks.push((position) => mask[values[position]! + 1] === 1);
  }
  if (least > 0 || most < Infinity)
    checks.push((position) => {
      const size = Math.abs(table.amount[position]!);
      return size >= least && size <= most;
    });
  if (state !== undefined) checks.push((position) => table.isDraft(position) === (state === 'draft'));
  if (origin !== undefined) checks.push((position) => table.isManual(position) === (origin === 'manual'));
  if (text !== undefined) {
    const texts = positionsWith(table, text);
    checks.push((position) => texts[position] === 1);
  }
  return checks;
}

/** Positions in another order: lines that are alike stay in order of date; descending is the exact reverse. */
export function sortLines(table: LineTable, positions: Int32Array, { by, descending }: LineSort): Int32Array {
  const sorted = by === 'date' ? positions.slice() : positions.length > MOST_COMPARED ? inOrder(table, positions, by) : compared();
  return descending ? sorted.reverse() : sorted;

  function compared(): Int32Array {
    const keys = table[by as SortKey];
    return positions.slice().sort((a, b) => keys[a]! - keys[b]! || a - b);
  }
}

type SortKey = Exclude<LineSort['by'], 'date'>;
const MOST_COMPARED = 50_000;
const ordersHeld = new WeakMap<LineTable, Map<SortKey, Int32Array>>();

/** Many positions, taken from the order of all lines, which is made once for a table. */
function inOrder(table: LineTable, positions: Int32Array, by: SortKey): Int32Array {
  const held = ordersHeld.get(table) ?? new Map<SortKey, Int32Array>();
  ordersHeld.set(table, held);
  const order = held.get(by) ?? orderOf(table[by]);
  held.set(by, order);
  const wanted = new Uint8Array(table.count);
  for (const position of positions) wanted[position] = 1;
  return order.filter((position) => wanted[position] === 1);
}

/** Positions of values from the smallest on; those that are alike in the order they stand in. Places are counted, value by value. */
function orderOf(values: Int32Array | Float64Array): Int32Array {
  const distinct = values.slice().sort();
  let different = 0;
  for (let index = 0; index < distinct.length; index += 1)
    if (index === 0 || distinct[index] !== distinct[index - 1]) distinct[different++] = distinct[index]!;
  const known = distinct.subarray(0, different);
  const ranks = new Int32Array(values.length);
  const places = new Int32Array(different + 1);
  for (let position = 0; position < values.length; position += 1) {
    const rank = firstFrom(known, values[position]!);
    ranks[position] = rank;
    places[rank + 1]! += 1;
  }
  for (let rank = 1; rank < places.length; rank += 1) places[rank]! += places[rank - 1]!;
  const order = new Int32Array(values.length);
  for (let position = 0; position < values.length; position += 1) order[places[ranks[position]!]!++] = position;
  return order;
}

/** @param positions in order of date, as found */
export function lineTotals(table: LineTable, positions: Int32Array): LineTotals {
  let debits = 0;
  let credits = 0;
  let entries = 0;
  let last = NaN;
  for (const position of positions) {
    const amount = table.amount[position]!;
    if (amount > 0) debits += amount;
    else credits -= amount;
    // lines of an entry stand together: they have one date and follow one another
    if (table.entry[position] !== last) entries += 1;
    last = table.entry[position]!;
  }
  return { lines: positions.length, entries, debits: minor(debits), credits: minor(credits) };
}

/** The first position whose value is at least the one given, in values that rise. */
function firstFrom(values: Int32Array | Float64Array, wanted: number): number {
  let [low, high] = [0, values.length];
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (values[middle]! < wanted) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** 1 for each number wanted, at its place after the one that stands for none. */
function maskOf(wanted: ReadonlySet<number>): Uint8Array {
  const mask = new Uint8Array(Math.max(-1, ...wanted) + 2);
  for (const each of wanted) mask[each + 1] = 1;
  return mask;
}

/** 1 for each line whose text has every word. */
function positionsWith(table: LineTable, text: string): Uint8Array {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  let marked = new Uint8Array(table.count).fill(1);
  for (const word of words) {
    const having = new Uint8Array(table.count);
    for (let at = table.texts.indexOf(word); at >= 0;) {
      const position = firstFrom(table.starts, at + 1) - 1;
      having[position] = marked[position]!;
      at = table.texts.indexOf(word, table.starts[position + 1]!);
    }
    marked = having;
  }
  return marked;
}
