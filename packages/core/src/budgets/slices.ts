import { firstSlot, type FiscalCalendar, lastSlot, periodOfYear, PERIODS_PER_YEAR, type Slot } from '../calendar/fiscal-calendar.ts';
import type { BalanceFact } from '../ledger/balance-cube.ts';
import type { DimensionCombination } from '../ledger/dimension.ts';
import { type BudgetHead, sliceKey } from './budget-books.ts';

/** Slots from and to, both included. */
export type SlotRange = { readonly from: Slot; readonly to: Slot };

/** The slots of a fiscal year, its adjustment period among them; null outside the calendar. */
export function slotsOfYear(calendar: FiscalCalendar, year: number): SlotRange | null {
  const [first, last] = [periodOfYear(calendar, year, 1), periodOfYear(calendar, year, PERIODS_PER_YEAR)];
  return first === null || last === null ? null : { from: firstSlot(calendar, first), to: lastSlot(calendar, last) };
}

/**
 * The slices of each account (by chart position) that facts fall in, in some stretches of time: their values
 * of the dimensions a budget has, in a fixed order.
 */
export function slicesByAccount(
  head: BudgetHead,
  facts: Iterable<BalanceFact>,
  ranges: readonly SlotRange[],
): ReadonlyMap<number, ReadonlyMap<string, DimensionCombination>> {
  const found = new Map<number, Map<string, DimensionCombination>>();
  const seen = new Map<DimensionCombination, readonly [string, DimensionCombination]>();
  const sliceOf = (combination: DimensionCombination): readonly [string, DimensionCombination] => {
    const known = seen.get(combination);
    if (known) return known;
    const own = Object.fromEntries(head.dimensions.flatMap((name) => (combination[name] ? [[name, combination[name]]] : [])));
    const slice = [sliceKey(own), own] as const;
    seen.set(combination, slice);
    return slice;
  };
  for (const { account, slot, combination } of facts) {
    if (!ranges.some(({ from, to }) => from <= slot && slot <= to)) continue;
    const slices = found.get(account) ?? new Map<string, DimensionCombination>();
    found.set(account, slices.set(...sliceOf(combination)));
  }
  for (const [account, slices] of found) found.set(account, new Map([...slices].sort(([a], [b]) => (a < b ? -1 : 1))));
  return found;
}
