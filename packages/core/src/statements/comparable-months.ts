import { type FiscalCalendar, periodAt, type PeriodIndex, PERIODS_PER_YEAR } from '../calendar/fiscal-calendar.ts';
import { spanWords } from '../calendar/period-words.ts';
import type { Span } from '../calendar/span.ts';
import type { AmountColumn, PlannedColumn } from './planned-column.ts';
import { isAtMoment, type PointInTime } from './point-in-time.ts';
import { STATISTIC } from './statistic-figures.ts';

/** The first and the last month that actual figures cover; null where nothing is posted. */
export type PostedMonths = { readonly first: PeriodIndex; readonly last: PeriodIndex } | null;
type DifferencePlan = PlannedColumn & { readonly kind: 'difference' | 'percentDifference' };
/** Both sides of a comparison cut to the months that both have. */
type CommonMonths = { readonly compared: Span; readonly base: Span };

/** The months of a column that can have figures: actuals reach from the first to the last posted month. Null when none can. */
export function coveredSpan(column: AmountColumn, posted: PostedMonths): Span | null {
  if (!column.resolved.ok) return null;
  const { span } = column.resolved;
  if (column.scenario !== 'actual' || posted === null) return span;
  const from = Math.max(span.from, posted.first) as PeriodIndex;
  const to = Math.min(span.to, posted.last) as PeriodIndex;
  return from > to ? null : { from, to };
}

const lengthOf = ({ from, to }: Span): number => to - from + 1;
const same = (a: Span, b: Span): boolean => a.from === b.from && a.to === b.to;

/**
 * The months two columns have in common. Spans of equal length are laid over each other from their
 * starts; others by whole years. Null when they share none.
 */
function commonMonths(compared: { span: Span; covered: Span }, base: { span: Span; covered: Span }): CommonMonths | null {
  const offset =
    lengthOf(compared.span) === lengthOf(base.span)
      ? base.span.from - compared.span.from
      : Math.round((base.span.to - compared.span.to) / PERIODS_PER_YEAR) * PERIODS_PER_YEAR;
  const from = Math.max(compared.covered.from, base.covered.from - offset);
  const to = Math.min(compared.covered.to, base.covered.to - offset);
  if (from > to) return null;
  const at = (start: number, end: number): Span => ({ from: start as PeriodIndex, to: end as PeriodIndex });
  return { compared: at(from, to), base: at(from + offset, to + offset) };
}

/**
 * Makes every difference and percentage compare equal months: where two amount columns cover different
 * months, hidden columns over the months both have are added, the comparison reads those, and its
 * heading names them. Balances are compared at the ends of the columns as they are, unless actuals end
 * before a column does. A formula's heading names the months of its columns where their numbers differ.
 * @param hasFlows whether the statement has lines that add up over months
 * @returns the columns, the added ones last, and the comparisons whose sides share no month
 */
export function compareEqualMonths(
  columns: readonly PlannedColumn[],
  options: { readonly calendar: FiscalCalendar; readonly posted: PostedMonths; readonly hasFlows: boolean },
): { readonly columns: readonly PlannedColumn[]; readonly apart: readonly PlannedColumn[] } {
  const { calendar, posted, hasFlows } = options;
  const all: PlannedColumn[] = [...columns];
  const added = new Map<string, number>();
  const apart: PlannedColumn[] = [];
  columns.forEach((column, index) => {
    if (column.kind === 'difference' || column.kind === 'percentDifference') all[index] = aligned(column);
    if (column.kind === 'formula' && hasFlows) all[index] = namingMonths(column);
  });
  return { columns: all, apart };

  function aligned(column: DifferencePlan): PlannedColumn {
    const [compared, base] = [sideOf(column.compared), sideOf(column.base)];
    if (!compared || !base) return column;
    const equal = lengthOf(compared.span) === lengthOf(base.span);
    if (!equal && !hasFlows) return column;
    const common = commonMonths(compared, base);
    if (common === null) {
      if (!equal) apart.push(column);
      return { ...column, flows: null };
    }
    if (equal && same(common.compared, compared.span) && same(common.base, base.span)) return column;
    const sides = { compared: over(column.compared, common.compared), base: over(column.base, common.base) };
    const heading = `${column.heading}, ${spanWords(calendar, common.compared)}`;
    return equal ? { ...column, ...sides, heading } : { ...column, flows: sides, heading };
  }

  /** A formula reads its columns as they are; over different numbers of months its heading names those of each. */
  function namingMonths(column: PlannedColumn & { readonly kind: 'formula' }): PlannedColumn {
    const spans = [...new Set(column.reads.values())].flatMap((read) => sideOf(read)?.covered ?? []);
    if (new Set(spans.map(lengthOf)).size < 2) return column;
    const words = [...new Set(spans.map((span) => spanWords(calendar, span)))];
    return { ...column, heading: `${column.heading}, ${words.join(' against ')}` };
  }

  function sideOf(index: number): { readonly span: Span; readonly covered: Span } | null {
    const column = columns[index];
    if (column?.kind !== 'amount' || !column.resolved.ok || column.scenario.startsWith(STATISTIC)) return null;
    const covered = coveredSpan(column, posted);
    return covered === null ? null : { span: column.resolved.span, covered };
  }

  /** The position of a column over fewer months; the column itself where it has no more. */
  function over(index: number, span: Span): number {
    const column = columns[index] as AmountColumn;
    if (column.resolved.ok && same(column.resolved.span, span)) return index;
    const key = `${column.key}.${periodAt(calendar, span.from).key}_${periodAt(calendar, span.to).key}`;
    const known = added.get(key);
    if (known !== undefined) return known;
    const position = all.push({ ...column, index: all.length, key, hidden: true, ifFilled: false, resolved: { ok: true, span } }) - 1;
    added.set(key, position);
    return position;
  }
}

/** The two columns a comparison reads on a line; null where they have no months in common. */
export function sidesOn(
  column: DifferencePlan,
  line: PointInTime,
  columns: readonly PlannedColumn[],
): { readonly compared: number; readonly base: number } | null {
  if (column.flows === undefined) return column;
  const compared = columns[column.compared];
  return compared?.kind === 'amount' && isAtMoment(line, compared.measure) ? column : column.flows;
}
