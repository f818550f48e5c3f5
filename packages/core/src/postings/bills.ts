import type { LineTable } from '../ledger/line-table.ts';

/**
 * What an entry posts to one account for one party, its lines together: a bill split over departments is one.
 * Columns with one value a bill, in order of date.
 */
export type Bills = {
  readonly count: number;
  /** position in the table of the bill's first line */
  readonly first: Int32Array;
  /** debit positive */
  readonly amount: Float64Array;
};

/** Bills of the lines at some positions, in the table's order; drafts and closing entries are left out by who asks. */
export function billsOf(table: LineTable, positions: ArrayLike<number>): Bills {
  const first = new Int32Array(positions.length);
  const amount = new Float64Array(positions.length);
  let count = 0;
  let start = 0;
  let entry = NaN;
  const held = new Map<number, number>();
  for (let at = 0; at < positions.length; at += 1) {
    const position = positions[at]!;
    if (table.entry[position] !== entry) {
      entry = table.entry[position]!;
      start = count;
      held.clear();
    }
    const bill = billAt(position);
    amount[bill]! += table.amount[position]!;
  }
  return { count, first: first.slice(0, count), amount: amount.slice(0, count) };

  /** The bill of this entry that a line belongs to. Few lines are compared one by one, many looked up. */
  function billAt(position: number): number {
    const many = count - start > 8;
    const key = table.account[position]! * 2 ** 26 + table.party[position]! + 1;
    if (many) {
      if (held.size === 0) for (let bill = start; bill < count; bill += 1) held.set(keyOf(bill), bill);
      const found = held.get(key);
      if (found !== undefined) return found;
      held.set(key, count);
    } else for (let bill = start; bill < count; bill += 1) if (keyOf(bill) === key) return bill;
    first[count] = position;
    return count++;
  }
  function keyOf(bill: number): number {
    return table.account[first[bill]!]! * 2 ** 26 + table.party[first[bill]!]! + 1;
  }
}

/** Bills of one account and party, by their number in `Bills`, in order of date. */
export type BillGroup = { readonly account: number; readonly party: number; readonly bills: Int32Array };

/** Bills gathered by account and party. */
export function billGroups(table: LineTable, { count, first }: Bills): BillGroup[] {
  // one number holds account, party and place, so that numbers sort as they are
  let parties = 0;
  for (let bill = 0; bill < count; bill += 1) parties = Math.max(parties, table.party[first[bill]!]! + 2);
  const keys = new Float64Array(count);
  for (let bill = 0; bill < count; bill += 1) {
    const position = first[bill]!;
    keys[bill] = (table.account[position]! * parties + table.party[position]! + 1) * count + bill;
  }
  keys.sort();
  const groups: BillGroup[] = [];
  for (let from = 0; from < count;) {
    const key = Math.floor(keys[from]! / count);
    let to = from + 1;
    while (to < count && Math.floor(keys[to]! / count) === key) to += 1;
    const bills = Int32Array.from(keys.subarray(from, to), (value) => value % count);
    groups.push({ account: Math.floor(key / parties), party: (key % parties) - 1, bills });
    from = to;
  }
  return groups;
}

/** Texts of a line, in lower case. */
export type LineTexts = { readonly number: string; readonly document: string; readonly memo: string; readonly party: string };

/** The texts of a line. A tab in a number or document would shift what follows it. */
export function textsAt(table: LineTable, position: number): LineTexts {
  const [number = '', document = '', memo = '', party = ''] = table.texts
    .slice(table.starts[position]!, table.starts[position + 1]! - 1)
    .split('\t');
  return { number, document, memo, party };
}

/** The memo of a line alone, in lower case; a fraction of the work of all its texts. */
export function memoAt(table: LineTable, position: number): string {
  const from = table.texts.indexOf('\t', table.texts.indexOf('\t', table.starts[position]) + 1) + 1;
  return table.texts.slice(from, table.texts.indexOf('\t', from));
}
