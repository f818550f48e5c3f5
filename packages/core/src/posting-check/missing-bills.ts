import { dayOfMonth } from '../calendar/day-of-month.ts';
import { minor } from '../money/minor.ts';
import type { BillGroup, Bills } from '../postings/bills.ts';
import { medianOf, robustSpread } from '../postings/median.ts';
import { type CheckedLedger, learnedKey } from './checked-ledger.ts';
import { REASON_SCORES } from './reason-scores.ts';
import type { Suspect } from './suspect.ts';

/** Months without a gap that make a posting a monthly one. */
const IN_A_ROW = 8;
const ALIKE = 0.5;
/** How many days of the month a monthly entry comes apart, at most. */
const DAYS_APART = 4;

/** Months in which an entry of an income account is missing that came in each of eight months before; of a run of them the first. */
export function missingBills(
  { table, accounts, monthOfSlot, slots, lastActual, learned }: CheckedLedger,
  { first, amount }: Bills,
  groups: readonly BillGroup[],
): Omit<Suspect, 'score' | 'weight'>[] {
  const missing: Omit<Suspect, 'score' | 'weight'>[] = [];
  const last = Math.min(slots.to, lastActual);
  for (const { account, party, bills } of groups) {
    if (party < 0 || bills.length < IN_A_ROW || !accounts[account]!.isIncome || learned.has(learnedKey('missingBill', account, party)))
      continue;
    const held = new Map<number, number[]>();
    for (const bill of bills) {
      const slot = table.slot[first[bill]!]!;
      const own = held.get(slot);
      if (own) own.push(Math.abs(amount[bill]!));
      else held.set(slot, [Math.abs(amount[bill]!)]);
    }
    const days = Array.from(bills, (bill) => dayOfMonth(table.day[first[bill]!]!));
    if (robustSpread(days) > DAYS_APART) continue;
    let run: number[] = [];
    let months = 0;
    for (let slot = Math.min(...held.keys()); slot <= last; slot += 1) {
      if (monthOfSlot[slot] === 0) continue;
      const own = held.get(slot);
      if (own) {
        run = [...run, ...own].slice(-24);
        months += 1;
        continue;
      }
      const usual = medianOf(run);
      if (months >= IN_A_ROW && slot >= slots.from && robustSpread(run, usual) <= ALIKE * usual)
        missing.push({
          line: null,
          account,
          party,
          slot,
          amount: minor(Math.round(usual)),
          reasons: [{ kind: 'missingBill', usual: minor(Math.round(usual)), months, score: REASON_SCORES.missingBill }],
        });
      [run, months] = [[], 0];
    }
  }
  return missing;
}
