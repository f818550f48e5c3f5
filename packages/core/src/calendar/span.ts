import { type FiscalCalendar, periodAt, type PeriodIndex, periodOfKey, PERIODS_PER_YEAR } from './fiscal-calendar.ts';

export const SPAN_KINDS = [
  'month',
  'quarter',
  'quarterToDate',
  'yearToDate',
  'fullYear',
  'trailingTwelve',
  'restOfYear',
  'fromBeginning',
] as const;
export type SpanKind = (typeof SPAN_KINDS)[number];

/**
 * A stretch of periods named relative to an as-of period (moving) or to a fixed one (`pinnedTo`,
 * a period key). The shift moves the as-of period first; a negative shift goes back.
 */
export type SpanDefinition = {
  readonly kind: SpanKind;
  readonly shift?: { readonly months?: number; readonly quarters?: number; readonly years?: number };
  readonly pinnedTo?: string;
  /**
   * `yearToDate`: only as far as there are actuals; `restOfYear`: everything after them. Seen from a month after the last
   * actual one, such as the month under way, the two then still make the year.
   */
  readonly byActuals?: boolean;
};

/** Periods from..to, both included. */
export type Span = { readonly from: PeriodIndex; readonly to: PeriodIndex };
export type ResolvedSpan =
  | { readonly ok: true; readonly span: Span }
  | { readonly ok: false; readonly reason: 'outsideCalendar' | 'emptySpan' };

const shiftInPeriods = ({ shift }: SpanDefinition): number =>
  (shift?.months ?? 0) + 3 * (shift?.quarters ?? 0) + PERIODS_PER_YEAR * (shift?.years ?? 0);

/**
 * The periods a definition stands for at an as-of period. Refused when any of them lies outside the
 * calendar, and when nothing is left (the rest of a year that has ended).
 * A year to date shifted by a year ends in the same period number.
 * @param through the last month of actuals, not after the as-of period; null or absent takes the as-of period
 */
export function resolveSpan(
  calendar: FiscalCalendar,
  definition: SpanDefinition,
  { asOf, through = null }: { readonly asOf: PeriodIndex; readonly through?: PeriodIndex | null },
): ResolvedSpan {
  const anchor = definition.pinnedTo === undefined ? asOf : periodOfKey(calendar, definition.pinnedTo);
  if (anchor === null) return { ok: false, reason: 'outsideCalendar' };
  const at = anchor + shiftInPeriods(definition);
  const outside = (index: number) => index < 0 || index >= calendar.periods.length;
  if (outside(at)) return { ok: false, reason: 'outsideCalendar' };
  const { number } = periodAt(calendar, at as PeriodIndex);
  const yearStart = at - (number - 1);
  const quarterStart = at - ((number - 1) % 3);
  // a year without actuals yet has no months to date, and all of them to come
  const turn = definition.byActuals === true && through !== null ? Math.max(yearStart - 1, Math.min(at, through)) : at;
  const bounds: Readonly<Record<SpanKind, readonly [number, number]>> = {
    month: [at, at],
    quarter: [quarterStart, quarterStart + 2],
    quarterToDate: [quarterStart, at],
    yearToDate: [yearStart, turn],
    fullYear: [yearStart, yearStart + PERIODS_PER_YEAR - 1],
    trailingTwelve: [at - PERIODS_PER_YEAR + 1, at],
    restOfYear: [turn + 1, yearStart + PERIODS_PER_YEAR - 1],
    fromBeginning: [0, at],
  };
  const [from, to] = bounds[definition.kind];
  if (from > to) return { ok: false, reason: 'emptySpan' };
  if (outside(from) || outside(to)) return { ok: false, reason: 'outsideCalendar' };
  return { ok: true, span: { from: from as PeriodIndex, to: to as PeriodIndex } };
}
