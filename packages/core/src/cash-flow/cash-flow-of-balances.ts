import type { Slot } from '../calendar/fiscal-calendar.ts';
import { type Chart, isIncomeAccount } from '../chart/account.ts';
import { BalanceCube, type Slab } from '../ledger/balance-cube.ts';
import { type Minor, minor } from '../money/minor.ts';
import { cashFlowRoleOf } from './account-role.ts';
import { cashFlowFacts, type PartFact } from './cash-flow-facts.ts';
import type { CashFlowPart } from './cash-flow-part.ts';

/**
 * The statement of cash flows of a plan, which has balances and no entries: depreciation is what the
 * expense and accumulated depreciation have in common, every other change of an investing or financing
 * balance is cash, and a gain on disposal is part of its section's receipts.
 * @param slab running balances by chart position
 */
export function cashFlowOfBalances(chart: Chart, slab: Slab, slots: number): BalanceCube {
  const roles = chart.accounts.map(cashFlowRoleOf);
  const ordinary: PartFact[] = [];
  const movements: PartFact[] = [];
  for (let slot = 0; slot < slots; slot += 1) {
    const changes = chart.accounts.map((_, account) => slab.change(account, slot, slot));
    const of = (role: (typeof roles)[number]) =>
      changes.flatMap((amount, account) => (roles[account] === role && amount !== 0 ? [account] : []));
    const fact = (account: number, part: CashFlowPart, amount: number): PartFact => ({
      account,
      slot: slot as Slot,
      combination: {},
      layer: 'ordinary',
      amount: minor(amount),
      part,
    });
    let depreciated = -of('accumulatedDepreciation').reduce((sum, account) => sum + changes[account]!, 0);
    let left = depreciated;
    for (const account of of('depreciationExpense')) {
      const part = Math.max(0, Math.min(left, changes[account]!));
      left -= part;
      movements.push(fact(account, 'depreciation', -part));
    }
    depreciated -= left;
    for (const account of of('accumulatedDepreciation')) {
      const matched = Math.max(0, Math.min(depreciated, -changes[account]!));
      depreciated -= matched;
      cash(account, changes[account]! + matched, 'investing');
    }
    for (const account of of('asset')) cash(account, changes[account]!, 'investing');
    for (const account of of('financing')) cash(account, changes[account]!, 'financing');
    // what closing entries moved into retained earnings is not cash
    const closed = slab.closedIncome(slot) - slab.closedIncome(slot - 1);
    of('retainedEarnings').forEach((account, index) => cash(account, changes[account]! + (index === 0 ? closed : 0), 'financing'));
    for (const section of ['investing', 'financing'] as const)
      for (const account of of(`${section}Result`)) {
        movements.push(fact(account, 'disposal', -changes[account]!));
        cash(account, changes[account]!, section);
      }
    changes.forEach((amount, account) => {
      if (amount !== 0) ordinary.push(fact(account, 'operatingChange', amount));
    });

    function cash(account: number, amount: number, section: 'investing' | 'financing'): void {
      if (amount !== 0) movements.push(fact(account, `${section}${amount > 0 ? 'Out' : 'In'}`, amount as Minor));
    }
  }
  const cube = new BalanceCube({ isIncome: chart.accounts.map(isIncomeAccount), slots });
  cube.post(cashFlowFacts(chart, ordinary, { movements, accrued: null }));
  return cube;
}
