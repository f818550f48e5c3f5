import type { Chart } from '../chart/account.ts';
import type { AccountClass } from '../chart/account-class.ts';
import type { BalanceFact } from '../ledger/balance-cube.ts';
import { cashFlowRoleOf } from './account-role.ts';
import { CASH_FLOW, type CashFlowPart } from './cash-flow-part.ts';

export type PartFact = BalanceFact & { readonly part: CashFlowPart };
/** Balances that hold interest or income tax due, by chart position. */
export type AccruedBalances = { readonly interest: readonly number[]; readonly incomeTax: readonly number[] };

/**
 * The facts of the statement of cash flows, each with its part among its dimension values: every
 * change of an operating balance, the movements read from entries, and what interest and income tax
 * were paid (the expense less what of it became due or was settled without cash).
 * @param from.accrued null leaves out what was paid, as a plan does, which does not tell
 */
export function cashFlowFacts(
  chart: Chart,
  ordinary: Iterable<BalanceFact>,
  from: { readonly movements: readonly PartFact[]; readonly accrued: AccruedBalances | null },
): BalanceFact[] {
  const roles = chart.accounts.map(cashFlowRoleOf);
  const place = partPlacer();
  const facts: BalanceFact[] = [];
  const add = (fact: BalanceFact, part: CashFlowPart): void => void facts.push({ ...place(fact, part), amount: fact.amount });
  const isOf = (account: number, of: AccountClass) => chart.accounts[account]!.class === of;
  const paid = [
    { part: 'interestPaid', of: 'interestExpense', accrued: new Set(from.accrued?.interest) },
    { part: 'incomeTaxPaid', of: 'incomeTax', accrued: new Set(from.accrued?.incomeTax) },
  ] as const;
  for (const fact of ordinary) {
    if (fact.layer === 'closing') continue;
    const role = roles[fact.account]!;
    if (role === 'operatingAsset' || role === 'operatingLiability') add(fact, 'operatingChange');
    if (from.accrued === null) continue;
    for (const { part, of, accrued } of paid) if (isOf(fact.account, of) || accrued.has(fact.account)) add(fact, part);
  }
  for (const { part, ...fact } of from.movements) {
    add(fact, part);
    if (part !== 'otherNoncash' || from.accrued === null) continue;
    for (const each of paid) if (isOf(fact.account, each.of)) add(fact, each.part);
  }
  return facts;
}

/** Combinations with the part among their values, one object for each so that filters test it once. */
function partPlacer(): (fact: BalanceFact, part: CashFlowPart) => Omit<BalanceFact, 'amount'> {
  const held = new Map<BalanceFact['combination'], Map<CashFlowPart, BalanceFact['combination']>>();
  return ({ account, slot, layer, combination }, part) => {
    const byPart = held.get(combination) ?? new Map<CashFlowPart, BalanceFact['combination']>();
    held.set(combination, byPart);
    const placed = byPart.get(part) ?? { ...combination, [CASH_FLOW]: part };
    byPart.set(part, placed);
    return { account, slot, layer, combination: placed };
  };
}
