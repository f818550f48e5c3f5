import { type Minor, minor } from '../money/minor.ts';
import type { Slab } from './balance-cube.ts';

/**
 * The result of earlier fiscal years still standing in income accounts, debit positive: what is to
 * be rolled into retained earnings at the start of a year. Zero when closing entries moved it all.
 * Closing entries dated within the year itself are undone, so that its own result still shows.
 * @param income chart positions of the income accounts
 * @param slots.upTo slot through which closing entries are counted
 */
export function unclosedEarnings(
  slab: Slab,
  income: readonly number[],
  slots: { readonly yearStart: number; readonly upTo: number },
): Minor {
  return minor(income.reduce((sum, index) => sum + slab.closing(index, slots.yearStart - 1), slab.closedIncome(slots.upTo)));
}
