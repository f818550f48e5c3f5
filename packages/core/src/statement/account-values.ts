import { firstSlot, lastSlot, periodAt, periodOfYear, type FiscalCalendar } from '../calendar/fiscal-calendar.ts';
import type { Span } from '../calendar/span.ts';
import type { Slab } from '../ledger/balance-cube.ts';
import { roundHalfAway } from '../money/round.ts';
import type { BalanceMeasure } from './column-set.ts';

/**
 * What every account of the chart shows over a span, debit positive minor units by chart position.
 * Income accounts show their net change whatever the measure, but for `opening`, which is the change
 * from the start of the fiscal year to the span. Balance-sheet accounts show the measure; an average
 * is the mean of the span's opening and closing balance, rounded half away from zero account by
 * account, so that sums of accounts always agree.
 * @param isBalance by chart position
 */
export function accountValues(options: {
  readonly slab: Slab;
  readonly isBalance: readonly boolean[];
  readonly calendar: FiscalCalendar;
  readonly span: Span;
  readonly measure: BalanceMeasure;
}): Float64Array {
  const { slab, isBalance, calendar, span, measure } = options;
  const from = firstSlot(calendar, span.from);
  const to = lastSlot(calendar, span.to);
  const values = new Float64Array(isBalance.length);
  if (measure === 'opening') {
    const yearStart = firstSlot(calendar, periodOfYear(calendar, periodAt(calendar, span.from).year, 1)!);
    for (let account = 0; account < values.length; account += 1) {
      if (isBalance[account]) values[account] = slab.closing(account, from - 1);
      else if (yearStart < from) values[account] = slab.change(account, yearStart, from - 1);
    }
    return values;
  }
  for (let account = 0; account < values.length; account += 1) {
    if (!isBalance[account] || measure === 'change') values[account] = slab.change(account, from, to);
    else if (measure === 'closing') values[account] = slab.closing(account, to);
    else values[account] = roundHalfAway((slab.closing(account, from - 1) + slab.closing(account, to)) / 2);
  }
  return values;
}
