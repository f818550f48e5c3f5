import { minor } from '../money/minor.ts';
import { medianOf, robustSpread } from '../postings/median.ts';
import type { BillsInView, FoundCause } from './bills-in-view.ts';

/** How many months before are looked at, and how many of them must have had a bill. */
const LOOKED_AT = 8;
const FEWEST = 7;
const STEADY = 0.02;
/** How much bills may differ and still be called one that comes every month. */
const ALIKE = 0.3;

/** Bills that come every month: those that did not come in the last month of a difference, and those that came at another price. */
export function standingCharges({ bills, groups, slots, signed, slotOf, isInView, isMonth }: BillsInView): FoundCause[] {
  const causes: FoundCause[] = [];
  for (const { account, party, bills: own } of groups) {
    if (party < 0) continue;
    const before = [...own].filter((bill) => slotOf(bill) < slots.from);
    const inView = [...own].filter(isInView);
    const last = before.at(-1);
    if (last === undefined) continue;
    const recent = before.filter((bill) => slotOf(bill) >= slots.from - LOOKED_AT);
    const months = new Set(recent.map(slotOf).filter(isMonth));
    if (months.size < FEWEST) continue;
    const sizes = recent.map((bill) => Math.abs(bills.amount[bill]!));
    const usual = Math.round(medianOf(sizes));
    const sign = Math.sign(signed(last));
    if (inView.length === 0 && isMonth(slots.to)) {
      if (usual === 0 || robustSpread(sizes) / usual > ALIKE) continue;
      causes.push({ kind: 'missingBill', party, account, usual: minor(usual), lastLine: bills.first[last]!, amount: minor(-sign * usual) });
      continue;
    }
    if (usual === 0 || robustSpread(sizes) / usual > STEADY || inView.length === 0) continue;
    const now = Math.round(medianOf(inView.map((bill) => Math.abs(bills.amount[bill]!))));
    if (Math.abs(now - usual) / usual <= STEADY) continue;
    const amount = inView.reduce((sum, bill) => sum + signed(bill) - sign * usual, 0);
    causes.push({
      kind: 'changedPrice',
      party,
      account,
      line: bills.first[inView[0]!]!,
      before: minor(usual),
      now: minor(now),
      amount: minor(amount),
    });
  }
  return causes;
}
