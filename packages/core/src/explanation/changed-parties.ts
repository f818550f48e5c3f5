import { minor } from '../money/minor.ts';
import type { BillsInView, FoundCause } from './bills-in-view.ts';

/** Days without anything after which a customer or vendor that came more often is taken to have stopped. */
const LEAST_GAP = 75;
const FEWEST_BEFORE = 4;
type OfParty = { readonly party: number; readonly bills: number[] };

/** Customers and vendors that are new on a line's accounts, were never posted to them though known elsewhere, or stopped coming. */
export function changedParties(view: BillsInView): FoundCause[] {
  const { ledger, bills, slots, slotsInYear, signed, slotOf, isInView } = view;
  const { table } = ledger;
  const parties = new Map<number, OfParty>();
  for (let bill = 0; bill < bills.count; bill += 1) {
    const party = table.party[bills.first[bill]!]!;
    if (party < 0) continue;
    const held = parties.get(party);
    if (held) held.bills.push(bill);
    else parties.set(party, { party, bills: [bill] });
  }
  const dayOf = (bill: number): number => table.day[bills.first[bill]!]!;
  let end = -Infinity;
  for (let bill = 0; bill < bills.count; bill += 1) end = Math.max(end, dayOf(bill));
  const sum = (of: readonly number[]): number => of.reduce((total, bill) => total + signed(bill), 0);
  const yearBefore = slots.from - slotsInYear;

  const arrived = [...parties.values()].filter(({ bills: own }) => {
    const first = own[0]!;
    // a ledger that begins here shows nobody as new
    return slotOf(first) >= slots.from - slotsInYear / 2 && slotOf(first) > slotsInYear / 2 && own.some(isInView);
  });
  const elsewhere = usualAccounts(view, new Map(arrived.map(({ party, bills: [first] }) => [party, dayOf(first!)])));
  const causes: FoundCause[] = arrived.map(({ party, bills: own }): FoundCause => {
    const inView = own.filter(isInView);
    const line = bills.first[inView.reduce((largest, bill) => (Math.abs(signed(bill)) > Math.abs(signed(largest)) ? bill : largest))]!;
    const amount = minor(sum(inView));
    const usualAccount = elsewhere.get(party);
    return usualAccount === undefined
      ? { kind: 'newParty', party, line: bills.first[own[0]!]!, bills: inView.length, amount }
      : { kind: 'unfamiliarAccount', party, line, account: table.account[line]!, usualAccount, amount };
  });
  if (yearBefore < 0) return causes;
  for (const { party, bills: own } of parties.values()) {
    const last = own.at(-1)!;
    const before = own.slice(-12);
    const gap = before.length < FEWEST_BEFORE ? Infinity : (dayOf(last) - dayOf(before[0]!)) / (before.length - 1);
    if (end - dayOf(last) < Math.max(LEAST_GAP, 2 * gap)) continue;
    // what came in the same months a year before, since the day of its last bill
    const lost = own.filter(
      (bill) => slotOf(bill) >= yearBefore && slotOf(bill) <= slots.to - slotsInYear && dayOf(bill) > dayOf(last) - 365,
    );
    if (lost.length > 0) causes.push({ kind: 'stoppedParty', party, lastLine: bills.first[last]!, amount: minor(-sum(lost) || 0) });
  }
  return causes;
}

/**
 * The account on which each of some parties was posted most often before a day, outside those of the line and of the
 * balance sheet; none for parties known nowhere else.
 */
function usualAccounts({ ledger: { table }, lines, isIncome }: BillsInView, before: ReadonlyMap<number, number>): Map<number, number> {
  const own = new Set(Array.from(lines.positions, (position) => table.account[position]!));
  const counts = new Map<number, Map<number, number>>();
  if (before.size === 0) return new Map();
  for (let position = 0; position < table.count; position += 1) {
    const party = table.party[position]!;
    const account = table.account[position]!;
    const until = before.get(party);
    if (until === undefined || table.day[position]! >= until || own.has(account) || !isIncome(account)) continue;
    const held = counts.get(party) ?? new Map<number, number>();
    counts.set(party, held);
    held.set(account, (held.get(account) ?? 0) + 1);
  }
  return new Map(
    [...counts].flatMap(([party, accounts]) => {
      const usual = [...accounts].sort((a, b) => b[1] - a[1])[0];
      return usual && usual[1] >= 2 ? [[party, usual[0]]] : [];
    }),
  );
}
