import { basisIssueWords } from '@wise-margin/contract';
import {
  deriveYear,
  isAmong,
  minor,
  monthOfYearName,
  periodAt,
  periodOfYear,
  rowAmount,
  signOf,
  yearByMonth,
  type BasisContext,
  type FollowingLine,
  type HistoryMonths,
  type PeriodIndex,
} from '@wise-margin/core';
import type { Books } from '../companies/books.ts';
import type { BudgetRow } from '../database/models.ts';
import type { StoredLine } from './store.ts';

const MONTHS = Array.from({ length: 12 }, (_, month) => month);

/** A stored line with its account, as lines that follow others are ordered. */
export const withAccount = (books: Books, line: StoredLine): StoredLine & FollowingLine => ({
  ...line,
  of: books.chart.accounts[line.position]!,
});

/** Names the months of a fiscal year (0 to 11). */
export const monthName =
  (books: Books, year: number) =>
  (month: number): string =>
    monthOfYearName(books.calendar, year, month);

/**
 * What the basis of a line draws on: history of its account and slice, drivers, and the other lines.
 * @param lines the budget's lines as they stand
 */
export function lineContext(
  books: Books,
  row: BudgetRow,
  { line, lines }: { readonly line: StoredLine; readonly lines: readonly StoredLine[] },
): BasisContext {
  const { dimension, year } = row;
  const filter = dimension === null ? {} : { [dimension]: [line.dimensions[dimension] ?? ''] };
  const slab = books.cube.slab(filter);
  const isPosted = (period: number): boolean =>
    books.firstPosted !== null && books.lastPosted !== null && period >= books.firstPosted && period <= books.lastPosted;
  const yearOf = (of: number): HistoryMonths => {
    const first = periodOfYear(books.calendar, of, 1);
    if (first === null) return MONTHS.map(() => null);
    return yearByMonth(slab, books.calendar, line.position, of).map((amount, month) => (isPosted(first + month) ? amount : null));
  };
  const from = line.basis.kind === 'sameMonths' ? line.basis.year : (row.fromYear ?? year - 1);
  const first = periodOfYear(books.calendar, year, 1)!;
  const own = withAccount(books, line);
  return {
    history: yearByMonth(slab, books.calendar, line.position, from),
    days: MONTHS.map((month) => {
      const { start, end } = periodAt(books.calendar, (first + month) as PeriodIndex);
      return (Date.parse(end) - Date.parse(start)) / 86_400_000 + 1;
    }),
    sign: signOf(own.of),
    year: yearOf,
    latest: (count) => {
      const months = books.years.flatMap(yearOf).flatMap((amount) => amount ?? []);
      return months.slice(-count);
    },
    driver: (series) => MONTHS.map((month) => books.statistics.value(series, filter, (first + month) as PeriodIndex)),
    lines: (accounts) => {
      const among = lines.map((each) => withAccount(books, each)).filter((each) => each.id !== line.id && isAmong(accounts, each, own));
      if (among.length === 0) return null;
      return MONTHS.map((month) => minor(among.reduce((sum, each) => sum + signOf(each.of) * rowAmount([each], month), 0)));
    },
  };
}

/** What the basis of a line lacks, in words; with the line's slice where it stands among others. */
export function lacksOf(
  books: Books,
  row: BudgetRow,
  { line, lines, isOneOfSeveral }: { readonly line: StoredLine; readonly lines: readonly StoredLine[]; readonly isOneOfSeveral: boolean },
): string[] {
  const slice = Object.values(line.dimensions).join(', ') || `No ${row.dimension ?? 'slice'}`;
  const { issues } = deriveYear(line.basis, lineContext(books, row, { line, lines }));
  return issues.map((issue) => `${isOneOfSeveral ? `${slice}: ` : ''}${basisIssueWords(issue, monthName(books, row.year))}`);
}
