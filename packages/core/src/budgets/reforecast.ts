import { type PeriodIndex, periodOfYear, PERIODS_PER_YEAR } from '../calendar/fiscal-calendar.ts';
import { isIncomeAccount } from '../chart/account.ts';
import { fraction, roundFraction } from '../money/fraction.ts';
import { type Minor, minor } from '../money/minor.ts';
import { exactLine } from '../trend/exact-line.ts';
import type { BudgetBooks, BudgetHead, PlacedLine } from './budget-books.ts';
import { historyMonths, sliceFilter } from './line-context.ts';
import { slicesByAccount, slotsOfYear } from './slices.ts';

/** Where the months to come of a reforecast come from: the budget, the mean of the year's posted months, or the line through the last twelve. */
export type RestOfYear = 'budget' | 'runRate' | 'trend';

/**
 * A budget whose posted months are actuals, held, and whose rest comes from the budget, the run rate or the
 * trend. What was posted without having been budgeted gets a line of its own, so that the posted months are
 * those of the ledger, account by account and slice by slice.
 * @param options.through the last month taken from actuals; nothing later than the last posted month is
 */
export function reforecast(options: {
  readonly books: BudgetBooks;
  readonly head: BudgetHead;
  readonly lines: readonly PlacedLine[];
  readonly through: PeriodIndex;
  readonly rest: RestOfYear;
}): PlacedLine[] {
  const { books, head, lines, through, rest } = options;
  const first = periodOfYear(books.calendar, head.year, 1)!;
  const posted = Math.max(0, Math.min(PERIODS_PER_YEAR, Math.min(through, books.lastActual ?? -1) - first + 1));
  return [...lines, ...unbudgeted({ books, head, lines }, posted)].map((line) => {
    const place = { position: line.position, filter: sliceFilter(head, line) };
    const reading = { projected: false, includeNonrecurring: false };
    const actual = historyMonths(books, { ...place, year: head.year }, { projected: false, includeNonrecurring: true });
    const recurring = historyMonths(books, { ...place, year: head.year }, reading).slice(0, posted);
    const before = historyMonths(books, { ...place, year: head.year - 1 }, reading);
    const months = line.months.map((month, index) =>
      index < posted
        ? { amount: actual[index] ?? minor(0), held: true }
        : rest === 'budget'
          ? month
          : { amount: restAt(rest, { index, posted, recurring, before }), held: true },
    );
    return { ...line, months };
  });
}

/** Lines for what was posted in the first months of the year and has no line; their ids are below zero. */
function unbudgeted(
  { books, head, lines }: { readonly books: BudgetBooks; readonly head: BudgetHead; readonly lines: readonly PlacedLine[] },
  posted: number,
): PlacedLine[] {
  const range = slotsOfYear(books.calendar, head.year);
  if (range === null || posted === 0) return [];
  const known = new Set(lines.map(({ position, slice }) => `${position} ${slice}`));
  const made: PlacedLine[] = [];
  for (const [position, slices] of slicesByAccount(head, books.cube.facts, [range])) {
    const account = books.chart.accounts[position]!;
    if (!isIncomeAccount(account)) continue;
    for (const [slice, dimensions] of slices) {
      if (known.has(`${position} ${slice}`)) continue;
      const months = Array.from({ length: PERIODS_PER_YEAR }, () => ({ amount: minor(0), held: false }));
      made.push({ id: -1 - made.length, position, account: account.number, dimensions, slice, basis: { kind: 'typed' }, months });
    }
  }
  return made;
}

function restAt(
  rest: Exclude<RestOfYear, 'budget'>,
  at: {
    readonly index: number;
    readonly posted: number;
    readonly recurring: readonly (Minor | null)[];
    readonly before: readonly (Minor | null)[];
  },
): Minor {
  const { index, posted, recurring, before } = at;
  if (rest === 'runRate') {
    const known = recurring.flatMap((amount) => amount ?? []);
    return known.length === 0
      ? minor(0)
      : roundFraction(
          fraction(
            known.reduce((sum, amount) => sum + BigInt(amount), 0n),
            known.length,
          ),
        );
  }
  // the last twelve months, the oldest first; the month asked for lies after them
  const latest = [...before, ...recurring].slice(-PERIODS_PER_YEAR);
  const line = exactLine(latest);
  return line === null ? minor(0) : roundFraction(line(latest.length + index - posted));
}
