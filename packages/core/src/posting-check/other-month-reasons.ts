import { memoAt } from '../postings/bills.ts';
import { namedMonth } from '../postings/named-month.ts';
import type { CheckedLedger, FoundReason } from './checked-ledger.ts';

/** Accounts whose texts name other months as a habit, such as bills that come a month later. */
const HABIT = 0.1;
const NAMES = /(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)/;

/** Lines of income accounts whose text names the month before or after the one they are posted in. */
export function otherMonthReasons({ table, accounts, monthOfSlot }: CheckedLedger, posted: Int32Array): FoundReason[] {
  const found: FoundReason[] = [];
  const naming = new Float64Array(accounts.length);
  const lines = new Float64Array(accounts.length);
  // one text is often that of many lines
  const read = new Map<string, number>();
  for (const position of posted) {
    const account = table.account[position]!;
    const month = monthOfSlot[table.slot[position]!]!;
    if (!accounts[account]!.isIncome || month === 0) continue;
    lines[account]! += 1;
    const memo = memoAt(table, position);
    let named = read.get(memo);
    if (named === undefined) {
      named = NAMES.test(memo) ? (namedMonth(memo)?.month ?? 0) : 0;
      if (read.size < 100_000) read.set(memo, named);
    }
    const apart = named === 0 ? 0 : (named - month + 12) % 12;
    if (apart !== 1 && apart !== 11) continue;
    naming[account]! += 1;
    found.push({ line: position, amount: table.amount[position]!, reason: { kind: 'otherMonth', named } });
  }
  return found.filter(({ line }) => naming[table.account[line]!]! <= Math.max(2, HABIT * lines[table.account[line]!]!));
}
