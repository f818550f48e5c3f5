import { dayNumber } from '../calendar/day-number.ts';
import { type Chart, isIncomeAccount } from '../chart/account.ts';
import type { LineTable } from '../ledger/line-table.ts';
import { type Minor, minor } from '../money/minor.ts';
import type { ReportRange } from './read-range.ts';

/** What an account held before a range, what was posted in it, and what it holds after; debit positive, credits without a sign. */
export type Movement = { readonly opening: Minor; readonly debits: Minor; readonly credits: Minor; readonly closing: Minor };
/** Movements of a range by account (chart position), and results that are in no account. */
export type AccountMovements = {
  readonly accounts: readonly Movement[];
  /** results of fiscal years before the one the range starts in, as far as no closing entry moved them */
  readonly earlierYears: Movement;
  /** what closing entries of the year the range starts in, or later, moved out of its income accounts */
  readonly closedThisYear: Movement;
};
/** Which lines count: drafts or not, and some dimension values, customers or vendors (-1 for none), and journals; left out, all. */
export type CountedLines = {
  readonly drafts: boolean;
  readonly combinations?: ReadonlySet<number>;
  readonly parties?: ReadonlySet<number>;
  readonly sources?: ReadonlySet<number>;
};

/**
 * -1 for a line before a range, 0 within it, 1 after it. Whole periods take lines by period, so that adjustments count
 * with their year; other days take them by date.
 */
export function placeIn(
  table: LineTable,
  { slots, from, to }: Pick<ReportRange, 'slots' | 'from' | 'to'>,
): (position: number) => -1 | 0 | 1 {
  if (slots)
    return (position) => {
      const slot = table.slot[position]!;
      return slot < slots.from ? -1 : slot > slots.to ? 1 : 0;
    };
  const [first, last] = [dayNumber(from), dayNumber(to)];
  return (position) => {
    const day = table.day[position]!;
    return day < first ? -1 : day > last ? 1 : 0;
  };
}

/** Whether a line is before the fiscal year that income accounts count from. */
export function isBeforeYear(table: LineTable, { slots, yearStart }: ReportRange): (position: number) => boolean {
  const first = dayNumber(yearStart.day);
  return slots ? (position) => table.slot[position]! < yearStart.slot : (position) => table.day[position]! < first;
}

/** Whether a line counts at all. */
export function countsLine(table: LineTable, counted: CountedLines): (position: number) => boolean {
  const { drafts, combinations, parties, sources } = counted;
  return (position) =>
    (drafts || !table.isDraft(position)) &&
    (combinations?.has(table.combination[position]!) ?? true) &&
    (parties?.has(table.party[position]!) ?? true) &&
    (sources?.has(table.source[position]!) ?? true);
}

/**
 * Every account's movement over a range, in one pass over the lines. Balance-sheet accounts carry what came before. Income
 * accounts start at zero with the fiscal year in which the range starts, and closing entries leave them alone: what those
 * moved stands in `earlierYears` first, as far as results of earlier years are left, then in `closedThisYear`. The
 * openings, and the closings, of everything add up to zero where entries balance; so do debits less credits.
 */
export function accountMovements(
  table: LineTable,
  { chart, range, counted }: { readonly chart: Chart; readonly range: ReportRange; readonly counted: CountedLines },
): AccountMovements {
  const count = chart.accounts.length;
  const isIncome = chart.accounts.map(isIncomeAccount);
  const [opening, debits, credits] = [new Float64Array(count), new Float64Array(count), new Float64Array(count)];
  const results = { yearStart: 0, opening: 0, closing: 0 };
  const [place, isEarlier, counts] = [placeIn(table, range), isBeforeYear(table, range), countsLine(table, counted)];
  for (let position = 0; position < table.count; position += 1) {
    const at = place(position);
    if (at > 0 || !counts(position)) continue;
    const account = table.account[position]!;
    const amount = table.amount[position]!;
    if (isIncome[account]! && (isEarlier(position) || table.isClosing(position))) {
      if (isEarlier(position)) results.yearStart += amount;
      if (at < 0) results.opening += amount;
      results.closing += amount;
    } else if (at < 0) opening[account]! += amount;
    else if (amount > 0) debits[account]! += amount;
    else credits[account]! -= amount;
  }
  const earlierLeft = (now: number): number =>
    results.yearStart > 0 ? Math.max(0, Math.min(results.yearStart, now)) : Math.min(0, Math.max(results.yearStart, now));
  const result = (at: (now: number) => number): Movement => {
    const [before, after] = [at(results.opening), at(results.closing)];
    return movement(before, Math.max(0, after - before), Math.max(0, before - after));
  };
  return {
    accounts: chart.accounts.map((_, account) => movement(opening[account]!, debits[account]!, credits[account]!)),
    earlierYears: result(earlierLeft),
    closedThisYear: result((now) => now - earlierLeft(now)),
  };
}

const movement = (opening: number, debits: number, credits: number): Movement => ({
  opening: minor(opening),
  debits: minor(debits),
  credits: minor(credits),
  closing: minor(opening + debits - credits),
});
