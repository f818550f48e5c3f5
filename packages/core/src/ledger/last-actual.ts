import { firstSlot, type FiscalCalendar, type PeriodIndex } from '../calendar/fiscal-calendar.ts';
import type { Slab } from './balance-cube.ts';

/** How the last actual month was decided: a person chose it, it is closed, or most of the usual accounts are posted in it. */
export type LastActualBasis = 'chosen' | 'closed' | 'usualAccounts';
/** A month later than the last actual one, or that month itself, whose postings leave open whether it is over. */
export type UnclearMonth = {
  readonly month: PeriodIndex;
  /** how many of its usual accounts are posted in it, and how many there are */
  readonly posted: number;
  readonly usual: number;
};
export type LastActual = {
  /** null while nothing is posted */
  readonly month: PeriodIndex | null;
  readonly basis: LastActualBasis;
  /** what the postings and closed months say, whatever was chosen */
  readonly proposed: PeriodIndex | null;
  /** what a person should be asked about; null when the answer is clear, or was given */
  readonly unclear: UnclearMonth | null;
};

/** What a person chose in place of what was proposed then; it holds until the proposal is another one. */
export type ChosenActual = { readonly month: PeriodIndex; readonly insteadOf: PeriodIndex };

/** From this share of its usual accounts on, a month is taken as over. */
const MOST = 0.5;
/** Between these shares a person is asked. */
const UNCLEAR = { from: 0.25, to: 0.75 };
/** Months before that tell which accounts are usual, and in what part of them an account has to be posted. */
const MONTHS_LOOKED_AT = 12;
const USUALLY = 0.75;
/** With fewer months before nobody knows which accounts are usual: the month is compared with the one of the most accounts. */
const MONTHS_NEEDED = 3;
/** A month counts among those from the size at which half as many accounts are posted as in a busy one: the upper quartile of the last three years. */
const BUSY = { quantile: 0.75, part: 0.5, months: 36 };

/**
 * The last month of actuals: the one a person chose, else the latest closed month, else the latest in which most of the
 * usual accounts are posted. A month with a few entries, such as the reversal of an accrual dated in it, is not over.
 *
 * Usual are the accounts posted in at least three quarters of the last twelve busy months before. Closed months count up
 * to the last posted one. Where two or more complete months follow the latest closed one, months are evidently not closed
 * as they end: the latest complete month is proposed, and it is asked about.
 *
 * @param options.slab ordinary postings by account and slot, without a filter
 * @param options.accounts how many accounts the slab has
 * @param options.closed the latest month that is closed or soft-closed; null for none
 */
export function lastActualMonth(options: {
  readonly calendar: FiscalCalendar;
  readonly slab: Slab;
  readonly accounts: number;
  readonly firstPosted: PeriodIndex | null;
  readonly lastPosted: PeriodIndex | null;
  readonly closed: PeriodIndex | null;
  readonly chosen: ChosenActual | null;
}): LastActual {
  const { firstPosted, lastPosted, chosen } = options;
  if (firstPosted === null || lastPosted === null) return { month: null, basis: 'usualAccounts', proposed: null, unclear: null };
  const closed = options.closed === null ? null : (Math.min(options.closed, lastPosted) as PeriodIndex);
  const coverage = coverageReader(options, { first: firstPosted, last: lastPosted });
  const complete = latestComplete(coverage, { first: firstPosted, last: lastPosted });
  const isStale = closed !== null && complete - closed >= 2;
  const proposed = closed === null || closed < firstPosted || isStale ? complete : closed;
  if (chosen !== null && chosen.insteadOf === proposed && chosen.month <= lastPosted)
    return { month: chosen.month, basis: 'chosen', proposed, unclear: null };
  const basis = proposed === closed ? 'closed' : 'usualAccounts';
  return { month: proposed, basis, proposed, unclear: unclearMonth(coverage, { proposed, basis, isStale, last: lastPosted }) };
}

type Coverage = (month: number) => { readonly posted: number; readonly usual: number; readonly share: number };

/** For each month, in how many of its usual accounts it is posted; a month without any usual accounts before it is wholly covered. */
function coverageReader(
  { calendar, slab, accounts }: { readonly calendar: FiscalCalendar; readonly slab: Slab; readonly accounts: number },
  { first, last }: { readonly first: PeriodIndex; readonly last: PeriodIndex },
): Coverage {
  const active = Array.from({ length: last - first + 1 }, (_, at) => {
    const slot = firstSlot(calendar, (first + at) as PeriodIndex);
    return Uint8Array.from({ length: accounts }, (__, account) => Number(slab.change(account, slot, slot) !== 0));
  });
  const counts = active.map((each) => each.reduce((sum, one) => sum + one, 0));
  const recent = counts
    .slice(-BUSY.months)
    .filter((count) => count > 0)
    .sort((a, b) => a - b);
  const busy = BUSY.part * (recent[Math.floor(BUSY.quantile * (recent.length - 1))] ?? 0);
  return (month) => {
    const own = active[month - first]!;
    const before = active.slice(0, month - first).filter((_, at) => counts[at]! >= busy && counts[at]! > 0);
    const looked = before.slice(-MONTHS_LOOKED_AT);
    const timesPosted = (account: number) => looked.reduce((sum, each) => sum + each[account]!, 0);
    if (looked.length < MONTHS_NEEDED) {
      const usual = Math.max(0, ...looked.map((each) => each.reduce((sum, one) => sum + one, 0)));
      const posted = Math.min(counts[month - first]!, usual);
      return { posted, usual, share: usual === 0 ? 1 : posted / usual };
    }
    const usual = [...own.keys()].filter((account) => timesPosted(account) >= USUALLY * looked.length);
    const posted = usual.filter((account) => own[account] === 1).length;
    return { posted, usual: usual.length, share: usual.length === 0 ? 1 : posted / usual.length };
  };
}

function latestComplete(coverage: Coverage, { first, last }: { readonly first: PeriodIndex; readonly last: PeriodIndex }): PeriodIndex {
  for (let month = last as number; month > first; month -= 1) if (coverage(month).share >= MOST) return month as PeriodIndex;
  return first;
}

function unclearMonth(
  coverage: Coverage,
  of: { readonly proposed: PeriodIndex; readonly basis: LastActualBasis; readonly isStale: boolean; readonly last: PeriodIndex },
): UnclearMonth | null {
  const { proposed, basis, isStale, last } = of;
  const at = (month: number): UnclearMonth & { readonly share: number } => ({ month: month as PeriodIndex, ...coverage(month) });
  const asked = ({ month, posted, usual }: UnclearMonth): UnclearMonth => ({ month, posted, usual });
  if (isStale) return asked(at(proposed));
  const own = at(proposed);
  if (basis === 'usualAccounts' && own.share < UNCLEAR.to) return asked(own);
  if (basis === 'closed' || proposed === last) return null;
  const next = at(proposed + 1);
  return next.share >= UNCLEAR.from ? asked(next) : null;
}

/** Stands for the month before the first, where nothing is posted yet. */
export const NO_ACTUALS = -1 as PeriodIndex;

/** The last month of actuals as seen from an as-of month: never after it. Null before anything is posted. */
export const actualThrough = (
  { firstPosted, lastActual }: { readonly firstPosted: PeriodIndex | null; readonly lastActual: PeriodIndex | null },
  asOf: PeriodIndex,
): PeriodIndex | null =>
  firstPosted === null || lastActual === null || asOf < firstPosted ? null : (Math.min(lastActual, asOf) as PeriodIndex);

/**
 * The last month whose postings a statement shows as actual: the last actual month, or, seen from a month after it, as far
 * as that one is posted.
 */
export const shownThrough = (
  { lastActual, lastPosted }: { readonly lastActual: PeriodIndex | null; readonly lastPosted: PeriodIndex | null },
  asOf: PeriodIndex,
): PeriodIndex | null =>
  lastActual === null || lastPosted === null ? lastPosted : (Math.max(lastActual, Math.min(asOf, lastPosted)) as PeriodIndex);
