import type { EntryEffectDto } from '@wise-margin/contract';
import { type BalanceFact, periodAt, type PeriodIndex, periodOfSlot } from '@wise-margin/core';

import { type Books, closedTo, periodCode, periodName } from '../../companies/index.ts';
import type { Database } from '../../database/database.ts';

/**
 * The closed periods a change would reach, with the first open day after the latest of them; null when it reaches none.
 * @param facts what balances would gain; what adds up to nothing reaches no period
 */
export async function closedEffect(
  database: Database,
  books: Books,
  { facts, person }: { readonly facts: readonly BalanceFact[]; readonly person: string },
): Promise<EntryEffectDto['closed']> {
  const closed = await closedTo(database, { companyId: books.id, person });
  if (closed.size === 0) return null;
  const { calendar } = books;
  const codeOf = (slot: BalanceFact['slot']): number => {
    const index = periodOfSlot(calendar, slot);
    const { year, number } = periodAt(calendar, index);
    const isAdjustment = calendar.hasAdjustmentPeriod && slot % 13 === 12;
    return periodCode(year, isAdjustment ? 13 : number);
  };
  const reached = [...new Set(facts.filter(({ amount }) => amount !== 0).map(({ slot }) => codeOf(slot)))]
    .filter((code) => closed.has(code))
    .sort((a, b) => a - b);
  if (reached.length === 0) return null;
  const latest = Math.max(...facts.map(({ slot }) => periodOfSlot(calendar, slot)));
  const open = calendar.periods.slice(latest + 1).find(({ year, number }) => !closed.has(periodCode(year, number)));
  return {
    periods: reached.map((code) => periodName(books.startMonth, code)),
    postIn: open ? periodAt(calendar, open.index as PeriodIndex).start : null,
  };
}
