import { firstSlot, lastSlot, periodAt, type PeriodIndex, periodOfYear, PERIODS_PER_YEAR } from '../calendar/fiscal-calendar.ts';
import { signOf } from '../chart/account.ts';
import type { DimensionFilter } from '../ledger/dimension.ts';
import { type Minor, minor } from '../money/minor.ts';
import type { BasisContext, HistoryMonths, HistoryReading } from './bases/basis-context.ts';
import type { BudgetBooks, BudgetHead, PlacedLine } from './budget-books.ts';
import { rowAmount } from './budget-line.ts';
import { membersAmong } from './follow.ts';

const MONTHS = Array.from({ length: PERIODS_PER_YEAR }, (_, month) => month);
const AS_POSTED: HistoryReading = { projected: false, includeNonrecurring: false };
const DAY = 86_400_000;

/** The slice of a line as a filter: its value, or none, of each dimension of the budget has. */
export const sliceFilter = (head: BudgetHead, line: Pick<PlacedLine, 'dimensions'>): DimensionFilter =>
  Object.fromEntries(head.dimensions.map((name) => [name, [line.dimensions[name] ?? '']]));

/** What a slice is called: its values, or `None`. */
const sliceName = (dimensions: PlacedLine['dimensions']): string =>
  Object.values(dimensions)
    .filter((value) => value !== '')
    .join(' / ') || 'None';

/** Twelve months of an account under a filter, debit positive; the adjustment period counts with the last. Null where there is no figure. */
export function historyMonths(
  books: BudgetBooks,
  place: { readonly position: number; readonly filter: DimensionFilter; readonly year: number },
  reading: HistoryReading = AS_POSTED,
): HistoryMonths {
  const { position, filter, year } = place;
  const first = periodOfYear(books.calendar, year, 1);
  if (first === null) return MONTHS.map(() => null);
  const slab = books.cube.slab(filter);
  const nonrecurring = books.nonrecurring.entries.slab(filter);
  const plan = reading.projected ? books.approved.get(year) : undefined;
  // most companies mark no whole months: then there is nothing to look for
  const marked = reading.includeNonrecurring || books.nonrecurring.months.size === 0 ? null : books.nonrecurring.months;
  return MONTHS.map((month): Minor | null => {
    const period = (first + month) as PeriodIndex;
    const [from, to] = [firstSlot(books.calendar, period), lastSlot(books.calendar, period)];
    if (books.firstPosted !== null && period < books.firstPosted) return null;
    const isLeftOut = marked?.has(`${position}:${from}`) ?? false;
    if (books.lastActual === null || period > books.lastActual)
      return plan && !isLeftOut ? plan.cube.slab(filter).change(position, from, to) : null;
    const amount = slab.change(position, from, to);
    if (reading.includeNonrecurring) return amount;
    if (isLeftOut) return null;
    return minor(amount - nonrecurring.change(position, from, to));
  });
}

/** Days from Monday to Friday between two ISO dates, both included. */
function workingDays(start: string, end: string): number {
  let count = 0;
  for (let day = Date.parse(start) / DAY; day <= Date.parse(end) / DAY; day += 1) {
    // the first day counted, 1 January 1970, was a Thursday: 0 is a Sunday here
    const weekday = (((day + 4) % 7) + 7) % 7;
    if (weekday > 0 && weekday < 6) count += 1;
  }
  return count;
}

/**
 * What the basis of a line draws on: history of its account and slice, drivers, and the other lines.
 * Nothing is read until it is asked for.
 * @param lines the budget's lines as they stand
 */
export function lineContext(
  books: BudgetBooks,
  head: BudgetHead,
  { line, lines }: { readonly line: PlacedLine; readonly lines: Iterable<PlacedLine> },
): BasisContext {
  const { position } = line;
  const filter = sliceFilter(head, line);
  const first = periodOfYear(books.calendar, head.year, 1)!;
  const period = (month: number) => periodAt(books.calendar, (first + month) as PeriodIndex);
  const yearOf = (year: number, reading?: HistoryReading): HistoryMonths => historyMonths(books, { position, filter, year }, reading);
  const spreadYear = line.basis.kind === 'sameMonths' || line.basis.kind === 'yearTotal' ? line.basis.year : head.fromYear;
  const own: BasisContext = {
    get history() {
      return yearOf(spreadYear ?? head.year - 1, { projected: true, includeNonrecurring: false }).map((amount) => amount ?? 0);
    },
    get days() {
      return MONTHS.map((month) => (Date.parse(period(month).end) - Date.parse(period(month).start)) / DAY + 1);
    },
    get workingDays() {
      return MONTHS.map((month) => workingDays(period(month).start, period(month).end));
    },
    sign: signOf(books.chart.accounts[position]!),
    year: yearOf,
    latest: (count, reading) => {
      const { firstYear, lastYear } = books.calendar;
      const years = Array.from({ length: lastYear - firstYear + 1 }, (_, index) => firstYear + index);
      // which months are the latest is a matter of what is posted, not of what is left out of them
      const posted = years
        .flatMap((year) => yearOf(year, { projected: false, includeNonrecurring: true }))
        .flatMap((amount, at) => (amount === null ? [] : [at]));
      const amounts = years.flatMap((year) =>
        yearOf(year, { projected: false, includeNonrecurring: reading?.includeNonrecurring ?? false }),
      );
      return posted.slice(-count).flatMap((at) => amounts[at] ?? []);
    },
    siblings: () =>
      [...lines]
        .filter((each) => each.position === position && each.id !== line.id)
        .concat(line)
        .sort((a, b) => (a.slice < b.slice ? -1 : 1))
        .map((each) => ({
          slice: sliceName(each.dimensions),
          isOwn: each === line,
          history: () => (each === line ? own : lineContext(books, head, { line: each, lines })).history,
        })),
    alike: (basis) => {
      const key = JSON.stringify(basis);
      const among = [...lines].filter((each) => each.position === position && each.id !== line.id && JSON.stringify(each.basis) === key);
      const all = [...among, line].sort((a, b) => (a.slice < b.slice ? -1 : 1));
      return {
        contexts: all.map((each) => (each === line ? own : lineContext(books, head, { line: each, lines }))),
        own: all.indexOf(line),
      };
    },
    driver: (series) => MONTHS.map((month) => books.statistics.value(series, filter, (first + month) as PeriodIndex)),
    lines: (accounts, wholeCompany = false) => {
      const among = membersAmong(books.chart, accounts, { line, lines, wholeCompany });
      if (among === null || among.length === 0) return null;
      const shown = (each: PlacedLine, month: number) => signOf(books.chart.accounts[each.position]!) * rowAmount([each], month);
      return MONTHS.map((month) => minor(among.reduce((sum, each) => sum + shown(each, month), 0)));
    },
  };
  return own;
}
