import type { BillGroup, Bills } from '../postings/bills.ts';
import type { CheckedLedger, FoundReason } from './checked-ledger.ts';

/** How often a party is on its usual account, and at most on another, for the other to be unfamiliar. */
const [USUAL, RARE] = [3, 1];
/** Accounts on which so many parties, and so large a part of them, are rarely seen are nobody's own: returns, discounts. */
const [MANY_RARE, PART_RARE] = [4, 0.25];

/** Bills on an income account that their party is posted to once, though it is known on another. */
export function unfamiliarAccounts({ table, accounts }: CheckedLedger, bills: Bills, groups: readonly BillGroup[]): FoundReason[] {
  const byParty = new Map<number, BillGroup[]>();
  for (const group of groups) {
    if (group.party < 0 || !accounts[group.account]!.isIncome) continue;
    const held = byParty.get(group.party);
    if (held) held.push(group);
    else byParty.set(group.party, [group]);
  }
  const parties = new Float64Array(accounts.length);
  const rare = new Float64Array(accounts.length);
  for (const { account, party, bills: own } of groups) {
    if (party < 0) continue;
    parties[account]! += 1;
    if (own.length <= RARE) rare[account]! += 1;
  }
  const isShared = (account: number): boolean => rare[account]! >= MANY_RARE && rare[account]! >= PART_RARE * parties[account]!;
  const found: FoundReason[] = [];
  for (const own of byParty.values()) {
    if (own.length < 2) continue;
    const usual = own.reduce((a, b) => (b.bills.length > a.bills.length ? b : a));
    for (const { account, bills: few } of own) {
      if (few.length > RARE || usual.bills.length < USUAL || account === usual.account || isShared(account)) continue;
      for (const bill of few) {
        // an entry that is split between the two is no mistake
        if (usual.bills.some((other) => table.entry[bills.first[other]!] === table.entry[bills.first[bill]!])) continue;
        found.push({
          line: bills.first[bill]!,
          amount: bills.amount[bill]!,
          reason: { kind: 'unfamiliarAccount', usualAccount: usual.account, times: usual.bills.length },
        });
      }
    }
  }
  return found;
}
