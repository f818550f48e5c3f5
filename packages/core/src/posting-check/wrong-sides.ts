import { type Minor, minor } from '../money/minor.ts';
import { type CheckedLedger, learnedKey } from './checked-ledger.ts';
import { REASON_SCORES } from './reason-scores.ts';
import type { Suspect } from './suspect.ts';

/** Months an account must have had a balance, and the part of them on its usual side. */
const [FEWEST, USUALLY] = [6, 0.9];

/** Months whose closing balance of a balance-sheet account is on the side it is hardly ever on, against its natural one; of a run of them the first. */
export function wrongSides(
  { table, accounts, monthOfSlot, slots, learned }: CheckedLedger,
  posted: Int32Array,
): Omit<Suspect, 'score' | 'weight'>[] {
  const width = monthOfSlot.length;
  const movements = new Float64Array(accounts.length * width);
  for (const position of posted) {
    const account = table.account[position]!;
    if (!accounts[account]!.isIncome) movements[account * width + table.slot[position]!]! += table.amount[position]!;
  }
  const found: Omit<Suspect, 'score' | 'weight'>[] = [];
  const last = Math.min(slots.to, width - 1);
  for (const [account, { isIncome, isDebit }] of accounts.entries()) {
    if (isIncome || learned.has(learnedKey('wrongSide', account, -1))) continue;
    const balances: number[] = [];
    let balance = 0;
    for (let slot = 0; slot <= last; slot += 1) {
      balance += movements[account * width + slot]!;
      balances.push(balance);
    }
    const held = balances.filter((each) => each !== 0);
    const wrong = (each: number): boolean => (isDebit ? each < 0 : each > 0);
    if (held.length < FEWEST || held.filter(wrong).length > (1 - USUALLY) * held.length) continue;
    for (const [slot, each] of balances.entries())
      if (wrong(each) && slot >= slots.from && !(slot > 0 && wrong(balances[slot - 1]!)))
        found.push({
          line: null,
          account,
          party: -1,
          slot,
          amount: minor(each),
          reasons: [{ kind: 'wrongSide', balance: each as Minor, score: REASON_SCORES.wrongSide }],
        });
  }
  return found;
}
