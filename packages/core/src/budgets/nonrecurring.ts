import { firstSlot, lastSlot, periodAt, type PeriodIndex, periodOfYear, PERIODS_PER_YEAR } from '../calendar/fiscal-calendar.ts';
import { type Account, isIncomeAccount, signOf } from '../chart/account.ts';
import { resultCategoryOf } from '../chart/cashflow.ts';
import { type Minor, minor } from '../money/minor.ts';
import type { Basis } from './basis.ts';
import type { BudgetBooks } from './budget-books.ts';
import type { PlacedLine } from './budget-books.ts';
import { CHECK_LIMITS, type CheckFinding } from './budget-checks.ts';
import { yearTotal } from './budget-line.ts';
import { historyMonths } from './line-context.ts';
import type { NonrecurringReason } from './nonrecurring-reason.ts';

/** What an entry holds at one income account, all its lines there together. Debit positive. */
export type EntryAtAccount = {
  readonly position: number;
  readonly period: PeriodIndex;
  readonly entry: { readonly id: number; readonly number: string };
  readonly memo: string;
  /** a customer, vendor or other party; null without one */
  readonly party: string | null;
  /** whether the party has amounts at the account in other years */
  readonly isPartyKnown: boolean;
  readonly amount: Minor;
};
/** What of the year a budget starts from may not happen again: an entry at an account, or a month to come as it is budgeted. */
export type NonrecurringCandidate = {
  readonly position: number;
  readonly period: PeriodIndex;
  /** null for a month of the approved budget */
  readonly entry: EntryAtAccount['entry'] | null;
  readonly memo: string;
  /** debit positive */
  readonly amount: Minor;
  readonly reason: NonrecurringReason;
};

const INSURANCE = /\binsurance (?:claim|proceeds|recovery|settlement)\b|\bclaim settled\b|\bstorm claim\b/i;
const NAMED =
  /\b(?:storm|flood|fire damage|hurricane|earthquake|lawsuit|litigation|settlement|severance|restructuring|write-?off|impairment|one-time|nonrecurring|relocation)\b/i;
// what is a disposal, an insurance recovery or named by its text is worth a look from a tenth of the size on
const NAMED_PART = 10;

/**
 * The amount from which an entry of the year is worth a look by its words, minor units: a tenth of the
 * size findings are listed past, which is a part of the year's revenue, or of its expenses without any.
 */
export const smallestCandidate = (books: BudgetBooks, year: number): number =>
  Math.max(1, Math.floor(volumeOfYear(books, year) / NAMED_PART));

function volumeOfYear(books: BudgetBooks, year: number): number {
  const totalOf = (is: (account: Account) => boolean) =>
    books.chart.accounts.reduce((sum, account, position) => {
      if (!is(account)) return sum;
      const months = historyMonths(books, { position, filter: {}, year }, { projected: true, includeNonrecurring: true });
      return sum + Math.abs(months.reduce<number>((total, amount) => total + (amount ?? 0), 0));
    }, 0);
  const revenue = totalOf(({ class: of }) => of === 'revenue');
  return (revenue === 0 ? totalOf(isIncomeAccount) : revenue) * CHECK_LIMITS.size;
}

/**
 * What of a year may not recur, the largest first: gains and losses on disposal, insurance recoveries, what
 * its text names, and large amounts in accounts or with parties that other years do not have, or in other
 * income and expense that is not posted most months. Items excluded already are not listed.
 * @param options.entries entries of the year at income accounts, of at least `smallestCandidate`
 * @param options.projected months to come are taken from the approved budget, and are looked at as well
 */
export function nonrecurringCandidates(options: {
  readonly books: BudgetBooks;
  readonly year: number;
  readonly projected: boolean;
  readonly entries: readonly EntryAtAccount[];
}): NonrecurringCandidate[] {
  const { books, year, projected, entries } = options;
  const size = volumeOfYear(books, year);
  const smallest = smallestCandidate(books, year);
  const activity = activityReader(books, year);
  const isMarked = (position: number, period: PeriodIndex) =>
    books.nonrecurring.months.has(`${position}:${firstSlot(books.calendar, period)}`);
  const reasonOf = (
    position: number,
    { amount, text, party }: { readonly amount: number; readonly text: string; readonly party: string | null },
  ): NonrecurringReason | null => {
    const account = books.chart.accounts[position]!;
    if (Math.abs(amount) < smallest) return null;
    if (isOther(account) && resultCategoryOf(account) === 'investing') return { code: 'disposal' };
    if (INSURANCE.test(text)) return { code: 'insurance' };
    const word = NAMED.exec(text)?.[0];
    if (word !== undefined) return { code: 'named', word: word.toLowerCase() };
    if (Math.abs(amount) < size) return null;
    const { inYear, elsewhere, hasOtherYears } = activity(position);
    if (hasOtherYears && elsewhere === 0) return { code: 'newAccount' };
    if (isOther(account) && inYear < PERIODS_PER_YEAR / 2) return { code: 'otherIncome', months: inYear };
    return hasOtherYears && party !== null ? { code: 'newParty', party } : null;
  };
  const posted = entries.flatMap((each): NonrecurringCandidate[] => {
    const { position, period, entry, memo, party, isPartyKnown, amount } = each;
    if (isMarked(position, period)) return [];
    const text = `${books.chart.accounts[position]!.name} ${memo}`;
    const reason = reasonOf(position, { amount, text, party: isPartyKnown ? null : party });
    return reason === null ? [] : [{ position, period, entry, memo, amount, reason }];
  });
  const planned = projected ? plannedMonths(books, year) : [];
  const budgeted = planned.flatMap(({ position, period, amount }): NonrecurringCandidate[] => {
    if (isMarked(position, period)) return [];
    const reason = reasonOf(position, { amount, text: books.chart.accounts[position]!.name, party: null });
    return reason === null ? [] : [{ position, period, entry: null, memo: '', amount, reason }];
  });
  return [...posted, ...budgeted].sort((a, b) => Math.abs(b.amount) - Math.abs(a.amount));
}

const isOther = (account: Account): boolean => account.class === 'otherIncome' || account.class === 'otherExpense';

/** Whether a basis draws on a month of a year, posted or as it is budgeted. */
function drawsOn(
  basis: Basis,
  { candidate, year, books }: { readonly candidate: NonrecurringCandidate; readonly year: number; readonly books: BudgetBooks },
) {
  if (basis.includeNonrecurring || (candidate.entry === null && !basis.projected)) return false;
  switch (basis.kind) {
    case 'sameMonths':
    case 'yearTotal':
      return basis.year === year;
    case 'averageYears':
    case 'trend':
      return basis.years.includes(year);
    case 'payroll':
      return basis.currentStaff?.year === year;
    case 'latestMonths':
      return books.lastActual !== null && candidate.period > books.lastActual - basis.count && candidate.period <= books.lastActual;
    default:
      return false;
  }
}

/** What of the candidates of a year is still in the base of the budget's lines. Items a basis keeps on purpose are not listed. */
export function nonrecurringFindings(
  { books, lines }: { readonly books: BudgetBooks; readonly lines: Iterable<PlacedLine> },
  { candidates, year }: { readonly candidates: readonly NonrecurringCandidate[]; readonly year: number },
): CheckFinding[] {
  const all = [...lines];
  return candidates.flatMap((candidate): CheckFinding[] => {
    const { position, period, entry, amount, reason } = candidate;
    const account = books.chart.accounts[position]!;
    const isDrawn = all.some(
      (line) => line.position === position && yearTotal(line.months) !== 0 && drawsOn(line.basis, { candidate, year, books }),
    );
    if (!isDrawn) return [];
    return [
      {
        code: 'nonrecurring',
        account: account.number,
        slice: null,
        entry: entry?.number ?? null,
        year,
        month: periodAt(books.calendar, period).number - 1,
        amount: signOf(account) * amount,
        reason,
      },
    ];
  });
}

/** Months of the year that are not posted, as the approved budget has them. */
function plannedMonths(books: BudgetBooks, year: number): { position: number; period: PeriodIndex; amount: Minor }[] {
  const first = periodOfYear(books.calendar, year, 1);
  const plan = books.approved.get(year);
  if (first === null || !plan) return [];
  const slab = plan.cube.slab({});
  return books.chart.accounts.flatMap((account, position) =>
    isIncomeAccount(account)
      ? Array.from({ length: PERIODS_PER_YEAR }, (_, month) => (first + month) as PeriodIndex)
          .filter((period) => books.lastActual === null || period > books.lastActual)
          .map((period) => ({
            position,
            period,
            amount: slab.change(position, firstSlot(books.calendar, period), lastSlot(books.calendar, period)),
          }))
          .filter(({ amount }) => amount !== 0)
      : [],
  );
}

/** In how many posted months of the year, and of all other years, an account has an amount. */
function activityReader(books: BudgetBooks, year: number) {
  const slab = books.cube.slab({});
  const { firstPosted, lastActual, calendar } = books;
  const posted =
    firstPosted === null || lastActual === null
      ? []
      : Array.from({ length: lastActual - firstPosted + 1 }, (_, index) => (firstPosted + index) as PeriodIndex);
  const [within, others] = [
    posted.filter((period) => periodAt(calendar, period).year === year),
    posted.filter((period) => periodAt(calendar, period).year !== year),
  ];
  return (position: number) => {
    const count = (periods: readonly PeriodIndex[]) =>
      periods.filter((period) => slab.change(position, firstSlot(calendar, period), lastSlot(calendar, period)) !== 0).length;
    return { inYear: count(within), elsewhere: count(others), hasOtherYears: others.length >= PERIODS_PER_YEAR };
  };
}

/** What leaving amounts out does to net income, minor units; zero without any. @param amounts debit positive */
export const effectOfLeavingOut = (amounts: readonly number[]): Minor => minor(amounts.reduce((sum, amount) => sum + amount, 0));
