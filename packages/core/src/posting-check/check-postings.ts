import { type Minor, minor } from '../money/minor.ts';
import { type BillGroup, billGroups, type Bills, billsOf } from '../postings/bills.ts';
import { medianOf } from '../postings/median.ts';
import { repeatedBills } from '../postings/repeated-bills.ts';
import { unusualAmounts } from '../postings/unusual-amounts.ts';
import { type CheckedLedger, type FoundReason, learnedKey } from './checked-ledger.ts';
import { dimensionReasons } from './dimension-reasons.ts';
import { missingBills } from './missing-bills.ts';
import { otherMonthReasons } from './other-month-reasons.ts';
import { periodEndReasons } from './period-end-reasons.ts';
import { REASON_SCORES } from './reason-scores.ts';
import type { Reason, ReasonKind, ReasonOf, Suspect } from './suspect.ts';
import { unfamiliarAccounts } from './unfamiliar-accounts.ts';
import { wrongSides } from './wrong-sides.ts';

/** Weight of the newest year, of the one before, and of those before that. */
const BY_AGE = [1, 0.7, 0.5] as const;
const FAINTEST = 15;

/**
 * Unusual postings, the most suspicious first; one for each entry. Draft and closing entries are not looked
 * at. The score of an entry is its strongest reason and half of each further one, more for large amounts, and less the
 * older it is.
 */
export function checkPostings(ledger: CheckedLedger): Suspect[] {
  const { table, accounts } = ledger;
  const positions = new Int32Array(table.count);
  let kept = 0;
  for (let position = 0; position < table.count; position += 1)
    if (!table.isDraft(position) && !table.isClosing(position)) positions[kept++] = position;
  const posted = positions.subarray(0, kept);
  const bills = billsOf(table, posted);
  const groups = billGroups(table, bills);
  const found: FoundReason[] = [];
  for (const group of groups) found.push(...amountReasons(ledger, bills, group));
  found.push(
    ...unfamiliarAccounts(ledger, bills, groups),
    ...dimensionReasons(ledger, posted),
    ...otherMonthReasons(ledger, posted),
    ...periodEndReasons(ledger, posted),
  );
  for (const position of posted)
    if (accounts[table.account[position]!]!.isWatched)
      found.push({ line: position, amount: table.amount[position]!, reason: { kind: 'watchedAccount' } });
  const scale = medianOf(Float64Array.from(bills.amount.subarray(0, Math.min(bills.count, 200_000)), Math.abs)) || 1;
  const absent = [...missingBills(ledger, bills, groups), ...wrongSides(ledger, posted)];
  return [...byEntry(ledger, found, scale), ...absent.map((suspect) => scored(ledger, suspect, scale))]
    .filter(({ score }) => score >= FAINTEST)
    .sort((a, b) => b.score - a.score || (b.line ?? -1) - (a.line ?? -1) || a.account - b.account);
}

/** Bills far from their usual amount, and bills that came twice. A bill that came twice is not called unusual as well. */
function amountReasons({ table, accounts }: CheckedLedger, bills: Bills, group: BillGroup): FoundReason[] {
  const at = (bill: number, reason: ReasonOf): FoundReason => ({ line: bills.first[bill]!, amount: bills.amount[bill]!, reason });
  // a bank or control account without a party has the other side of everything
  if (group.party < 0 && !accounts[group.account]!.isIncome) return [];
  const repeated = repeatedBills(table, bills, group);
  const again = new Set(repeated.map(({ bill }) => bill));
  const found = repeated.map(({ bill, of, days, byDocument }) =>
    at(bill, { kind: byDocument ? 'repeatedDocument' : 'repeatedAmount', of: bills.first[of]!, days }),
  );
  // lines without a party are many things to one account
  if (group.party < 0) return found;
  for (const { bill, usual, times, kind } of unusualAmounts(bills, group.bills))
    if (!again.has(bill)) found.push(at(bill, { kind, usual: minor(usual), times }));
  return found;
}

/** Reasons gathered by entry; the entry stands at the line of its strongest reason, of income accounts before others. */
function byEntry(ledger: CheckedLedger, found: readonly FoundReason[], scale: number): Suspect[] {
  const { table, accounts, slots, learned } = ledger;
  const entries = new Map<number, { line: number; amount: number; best: number; readonly reasons: Map<ReasonKind, Reason> }>();
  for (const { line, amount, reason } of found) {
    const [account, slot] = [table.account[line]!, table.slot[line]!];
    if (slot < slots.from || slot > slots.to || learned.has(learnedKey(reason.kind, account, table.party[line]!))) continue;
    const score = REASON_SCORES[reason.kind] * (accounts[account]!.isIncome ? 1 : 0.7);
    const held = entries.get(table.entry[line]!) ?? { line, amount, best: 0, reasons: new Map<ReasonKind, Reason>() };
    entries.set(table.entry[line]!, held);
    if (score > held.best) Object.assign(held, { line, amount, best: score });
    if (score > (held.reasons.get(reason.kind)?.score ?? 0)) held.reasons.set(reason.kind, { ...reason, score });
  }
  return [...entries.values()].map(({ line, amount, reasons }) =>
    scored(
      ledger,
      {
        line,
        account: table.account[line]!,
        party: table.party[line]!,
        slot: table.slot[line]!,
        amount: amount as Minor,
        reasons: [...reasons.values()].sort((a, b) => b.score - a.score),
      },
      scale,
    ),
  );
}

/** @param scale the usual size of an amount in the ledger */
function scored({ slots, slotsInYear }: CheckedLedger, suspect: Omit<Suspect, 'score' | 'weight'>, scale: number): Suspect {
  const reasons = suspect.reasons.map((reason, at) => ({ ...reason, score: at === 0 ? reason.score : reason.score / 2 }));
  const sum = reasons.reduce((all, { score }) => all + score, 0);
  // an amount ten times the usual one counts a tenth more, one of a tenth of it a tenth less
  const size = 1 + Math.max(-0.25, Math.min(0.25, Math.log10(Math.max(Math.abs(suspect.amount), 1) / scale) / 10));
  const age = Math.floor((slots.to - suspect.slot) / slotsInYear);
  const weight = size * BY_AGE[Math.min(age, BY_AGE.length - 1)]!;
  return { ...suspect, reasons, weight, score: Math.round(sum * weight * 10) / 10 };
}
