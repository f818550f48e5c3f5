import { firstSlot, type FiscalCalendar, lastSlot, periodAt, periodOfYear } from '../calendar/fiscal-calendar.ts';
import type { Span } from '../calendar/span.ts';
import type { Slab } from '../ledger/balance-cube.ts';
import { unclosedEarnings } from '../ledger/unclosed-earnings.ts';
import { roundHalfAway } from '../money/round.ts';
import type { BalanceMeasure } from './column-set.ts';
import type { EarningsYears, YearPart } from './line-set.ts';

/** The slots a span reaches over, and the first of the fiscal year each of its ends lies in. */
export type SlotSpan = { readonly from: number; readonly to: number; readonly yearOfFrom: number; readonly yearOfTo: number };

export function slotSpanOf(calendar: FiscalCalendar, span: Span): SlotSpan {
  const yearStart = (period: Span['from']) => firstSlot(calendar, periodOfYear(calendar, periodAt(calendar, period).year, 1)!);
  return {
    from: firstSlot(calendar, span.from),
    to: lastSlot(calendar, span.to),
    yearOfFrom: yearStart(span.from),
    yearOfTo: yearStart(span.to),
  };
}

/** A span, and what of it is shown. */
export type MeasuredSpan = { readonly span: SlotSpan; readonly measure: BalanceMeasure };

/**
 * What a balance-sheet row of a slab shows over a span, debit positive minor units. An average is the
 * mean of opening and closing balance, rounded half away from zero row by row, so that sums of rows
 * always agree.
 */
export function balanceValue(slab: Slab, row: number, { span: { from, to }, measure }: MeasuredSpan): number {
  switch (measure) {
    case 'closing':
      return slab.closing(row, to);
    case 'opening':
      return slab.closing(row, from - 1);
    case 'change':
      return slab.change(row, from, to);
    case 'average':
      return roundHalfAway((slab.closing(row, from - 1) + slab.closing(row, to)) / 2);
  }
}

/**
 * What a balance that the year end closes shows over a span: this year's movement (`current`), or what
 * stood at the start of its year (`earlier`); together they are the balance. Debit positive minor units.
 */
export function yearPartValue(slab: Slab, row: number, { span, measure, part }: MeasuredSpan & { readonly part: YearPart }): number {
  const at = (slot: number, yearStart: number): number =>
    part === 'earlier'
      ? slab.closing(row, Math.min(slot, yearStart - 1))
      : slab.closing(row, slot) - slab.closing(row, Math.min(slot, yearStart - 1));
  const closing = at(span.to, span.yearOfTo);
  if (measure === 'closing') return closing;
  const opening = at(span.from - 1, span.yearOfFrom);
  if (measure === 'opening') return opening;
  return measure === 'change' ? closing - opening : roundHalfAway((opening + closing) / 2);
}

/**
 * What an income row shows over a span: its net change whatever the measure, but for `opening`, which
 * is the change from the start of the fiscal year to the span. Debit positive minor units.
 */
export function incomeValue(slab: Slab, row: number, { span: { from, to, yearOfFrom }, measure }: MeasuredSpan): number {
  if (measure !== 'opening') return slab.change(row, from, to);
  return yearOfFrom < from ? slab.change(row, yearOfFrom, from - 1) : 0;
}

/** What every account of the chart shows over a span, by chart position. */
export function accountValues(slab: Slab, isBalanceSheet: readonly boolean[], measured: MeasuredSpan): Float64Array {
  const values = new Float64Array(isBalanceSheet.length);
  for (let account = 0; account < values.length; account += 1)
    values[account] = (isBalanceSheet[account] ? balanceValue : incomeValue)(slab, account, measured);
  return values;
}

/**
 * The result standing in income accounts as a figure of the balance sheet, debit positive: of the
 * fiscal year so far (`current`; zero at the start of a year), or of earlier years as far as no closing
 * entry moved it (`earlier`), or what closing entries moved out of it (`closed`).
 */
export function earningsValue(options: {
  readonly slab: Slab;
  /** chart positions of the income accounts that count */
  readonly income: readonly number[];
  readonly years: EarningsYears;
  readonly span: SlotSpan;
  readonly measure: BalanceMeasure;
}): number {
  const { slab, income, years, span, measure } = options;
  const at = (slot: number, yearStart: number): number => {
    if (years === 'closed') return slab.closedIncome(slot);
    if (years === 'earlier') return unclosedEarnings(slab, income, { yearStart, upTo: slot });
    if (slot < yearStart) return 0;
    return income.reduce((sum, index) => sum + slab.change(index, yearStart, slot), 0);
  };
  const closing = at(span.to, span.yearOfTo);
  if (measure === 'closing') return closing;
  const opening = at(span.from - 1, span.yearOfFrom);
  if (measure === 'opening') return opening;
  return measure === 'change' ? closing - opening : roundHalfAway((opening + closing) / 2);
}
