import { minor } from '../money/minor.ts';
import { billGroups, billsOf } from '../postings/bills.ts';
import { repeatedBills } from '../postings/repeated-bills.ts';
import { unusualAmounts } from '../postings/unusual-amounts.ts';
import type { BillsInView, FoundCause, Unexplained } from './bills-in-view.ts';
import type { Cause, CauseOf } from './cause.ts';
import { changedParties } from './changed-parties.ts';
import type { LedgerLines } from './ledger-side.ts';
import { standingCharges } from './standing-charges.ts';

/** How far each kind is believed where several account for as much: what is seen in single documents before what is only a pattern. */
const TRUST: Readonly<Record<CauseOf['kind'], number>> = {
  repeatedBill: 1,
  unusualAmount: 0.95,
  unfamiliarAccount: 1,
  timing: 0.95,
  missingBill: 0.9,
  stoppedParty: 0.85,
  newParty: 0.8,
  changedPrice: 0.8,
  part: 0.4,
};
/** A month says when, not why. */
const TRUST_IN_MONTH = 0.25;
const trustIn = (cause: CauseOf): number => (cause.kind === 'part' && cause.by === 'month' ? TRUST_IN_MONTH : TRUST[cause.kind]);
const FAINT = 0.1;

/** Causes in the bills of a difference. Those of opposite sign to it are left out: they lessen it. */
export function billCauses(ledger: LedgerLines, unexplained: Unexplained): FoundCause[] {
  const { table } = ledger;
  const { lines, slots } = unexplained;
  const bills = billsOf(table, lines.positions);
  const weights = new Map<number, number>();
  for (const [at, position] of lines.positions.entries())
    if (table.amount[position] !== 0) weights.set(table.account[position]!, Math.sign(lines.amounts[at]! * table.amount[position]!));
  const signed = (bill: number): number => bills.amount[bill]! * (weights.get(table.account[bills.first[bill]!]!) ?? 0);
  const slotOf = (bill: number): number => table.slot[bills.first[bill]!]!;
  const view: BillsInView = {
    ...unexplained,
    ledger,
    bills,
    groups: billGroups(table, bills),
    signed,
    slotOf,
    isInView: (bill) => slotOf(bill) >= slots.from && slotOf(bill) <= slots.to,
  };
  return [...mistakenBills(view), ...changedParties(view), ...standingCharges(view)];
}

/** Bills that came twice, and bills far from their usual amount. A bill that came twice is not called unusual as well. */
function mistakenBills({ ledger: { table }, bills, groups, signed, isInView }: BillsInView): FoundCause[] {
  const causes: FoundCause[] = [];
  for (const group of groups) {
    const repeated = repeatedBills(table, bills, group).filter(({ bill, byDocument }) => byDocument && isInView(bill));
    for (const { bill, of } of repeated)
      causes.push({
        kind: 'repeatedBill',
        line: bills.first[bill]!,
        of: bills.first[of]!,
        size: minor(Math.abs(bills.amount[bill]!)),
        amount: minor(signed(bill)),
      });
    const again = new Set(repeated.map(({ bill }) => bill));
    for (const { bill, usual, kind } of unusualAmounts(bills, group.bills)) {
      if (!isInView(bill) || again.has(bill)) continue;
      const size = Math.abs(bills.amount[bill]!);
      causes.push({
        kind: 'unusualAmount',
        line: bills.first[bill]!,
        size: minor(size),
        usual: minor(usual),
        as: kind,
        amount: minor(Math.sign(signed(bill)) * (size - usual)),
      });
    }
  }
  return causes;
}

/**
 * Causes in order of how much of the difference each accounts for, the most telling first. Those that account for less
 * than a tenth are left out.
 */
export function rankCauses(causes: readonly FoundCause[], variance: number): Cause[] {
  return causes
    .map((cause): Cause => ({ ...cause, share: shareOf(cause.amount, variance) }))
    .filter(({ share }) => share >= FAINT)
    .sort((a, b) => trustIn(b) * b.share - trustIn(a) * a.share || Math.abs(b.amount) - Math.abs(a.amount));
}

/** 1 where an amount is the whole of a difference, less the further it falls short of it or goes past it; 0 where it goes against it. */
function shareOf(amount: number, variance: number): number {
  if (amount === 0 || variance === 0 || amount > 0 !== variance > 0) return 0;
  return Math.min(amount / variance, variance / amount);
}
