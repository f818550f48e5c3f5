import type { LineTable } from '../ledger/line-table.ts';
import { type BillGroup, type Bills, textsAt } from './bills.ts';

/** A bill that seems to be one posted before. */
export type RepeatedBill = {
  readonly bill: number;
  /** the earlier one */
  readonly of: number;
  readonly days: number;
  /** whether the documents are the same, or one is the other with a letter or two after it; else only party and amount are */
  readonly byDocument: boolean;
};

/** Bills of the same amount further apart are taken for new ones. */
const MOST_DAYS_BY_DOCUMENT = 62;
const MOST_DAYS_BY_AMOUNT = 14;
/** An amount that comes this often in a group is a fixed price or a standing charge. */
const USUAL_TIMES = 3;

/**
 * Bills of a group that repeat an earlier one: the same amount with the same document or one with a suffix, within 62
 * days; or the same amount within 14 days where the group rarely has that amount. A bill that an opposite one takes back
 * is not repeated. Without a party only documents are compared.
 */
export function repeatedBills(table: LineTable, { first, amount }: Bills, { party, bills }: BillGroup): RepeatedBill[] {
  if (!hasAlike(amount, bills)) return [];
  const ofAmount = new Map<number, number[]>();
  for (const bill of bills) {
    if (amount[bill] === 0) continue;
    const held = ofAmount.get(amount[bill]!);
    if (held) held.push(bill);
    else ofAmount.set(amount[bill]!, [bill]);
  }
  const found: RepeatedBill[] = [];
  for (const [value, alike] of ofAmount) {
    if (alike.length < 2) continue;
    const takenBack = ofAmount.get(-value)?.length ?? 0;
    if (takenBack > 0) continue;
    for (let at = 1; at < alike.length; at += 1) {
      const [of, bill] = [alike[at - 1]!, alike[at]!];
      const days = table.day[first[bill]!]! - table.day[first[of]!]!;
      if (days > MOST_DAYS_BY_DOCUMENT || table.entry[first[bill]!] === table.entry[first[of]!]) continue;
      const byDocument = isSameDocument(textsAt(table, first[of]!).document, textsAt(table, first[bill]!).document);
      const isRare = party >= 0 && days <= MOST_DAYS_BY_AMOUNT && alike.length < USUAL_TIMES;
      if (byDocument || isRare) found.push({ bill, of, days, byDocument: byDocument === true });
    }
  }
  return found.sort((a, b) => a.bill - b.bill);
}

/** Whether two bills have one amount: most groups have none, and need no more work. */
function hasAlike(amount: Float64Array, bills: Int32Array): boolean {
  const sorted = Float64Array.from(bills, (bill) => amount[bill]!).sort();
  for (let at = 1; at < sorted.length; at += 1) if (sorted[at] === sorted[at - 1] && sorted[at] !== 0) return true;
  return false;
}

/**
 * Whether two document numbers name one document: alike, or one is the other with one or two letters, or a dash and a digit, after it.
 * Null where one of them is empty.
 * @example isSameDocument('d-4471', 'd-4471a') // true
 */
export function isSameDocument(a: string, b: string): boolean | null {
  if (a === '' || b === '') return null;
  const [short, long] = a.length <= b.length ? [a, b] : [b, a];
  return (
    long === short ||
    (short.length >= 3 && long.startsWith(short) && /^(?:[a-z]{1,2}|[-/. ](?:\d|[a-z]{1,4}))$/.test(long.slice(short.length)))
  );
}
