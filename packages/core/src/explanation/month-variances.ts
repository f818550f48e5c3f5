import type { PeriodIndex } from '../calendar/fiscal-calendar.ts';
import { incomeValue, slotSpanOf } from '../statements/account-values.ts';
import { slabFor, type StatementGrid } from '../statements/evaluate.ts';
import type { FigureLeaf, FigureSides } from '../statements/figure-groups.ts';
import type { MonthVariance } from './timing.ts';

/**
 * The variance of a figure in each of some months, in its sign, where both sides are sums of income accounts; empty for others.
 * The base of a month lies as far from it as the base of the figure does.
 */
export function monthVariances(
  grid: StatementGrid,
  { compared, base }: FigureSides,
  months: { readonly from: number; readonly to: number },
): MonthVariance[] {
  const [own, other] = [compared[0], base?.[0]];
  if (
    !own ||
    !other ||
    [...compared, ...(base ?? [])].some(({ source }) => source.accounts.some(({ account }) => grid.plan.isBalanceSheet[account]))
  )
    return [];
  const offset = other.source.span.from - own.source.span.from;
  if (months.from + offset < 0) return [];
  const found: MonthVariance[] = [];
  for (let month = months.from; month <= months.to; month += 1)
    found.push({ month, variance: movementIn(grid, compared, month) - movementIn(grid, base!, month + offset) });
  return found;
}

function movementIn(grid: StatementGrid, leaves: readonly FigureLeaf[], month: number): number {
  const span = { from: month as PeriodIndex, to: month as PeriodIndex };
  const slots = slotSpanOf(grid.plan.calendar, span);
  let sum = 0;
  for (const { factor, line, source } of leaves) {
    const slab = slabFor(grid.sources(source.scenario), grid.plan.lines[line]!, { span, filter: source.filter });
    for (const { account } of source.accounts) sum += factor * source.sign * incomeValue(slab, account, { span: slots, measure: 'change' });
  }
  return sum;
}
