import { daysBetween } from '../calendar/day-number.ts';
import type { IsoDate } from '../calendar/iso-date.ts';
import { groupBy } from '../collections/group-by.ts';
import { type Decimal, multiplyByDecimal } from '../money/decimal.ts';
import { type Minor, minor, ZERO } from '../money/minor.ts';
import { type AgingBasis, type AgingBuckets, bucketAt, bucketCount, monthsLater } from './buckets.ts';
import { type ControlLine, type OpenItem, openItems, type UnappliedCredit } from './open-items.ts';

/** An open document with its age. */
export type AgedItem = OpenItem & {
  readonly bucket: number;
  /** days past due, or days since the document, below zero before it */
  readonly days: number;
};
export type AgedParty = {
  readonly party: string;
  readonly items: readonly AgedItem[];
  readonly unapplied: readonly UnappliedCredit[];
  /** open amounts by bucket */
  readonly buckets: readonly Minor[];
  /** payments and credits without a document; zero or less */
  readonly credits: Minor;
  /** buckets and credits together */
  readonly total: Minor;
  /** at the date and at the same day of each of the eleven months before, the latest first; null where nothing was invoiced */
  readonly daysOutstanding: readonly (number | null)[];
};
export type Aging = {
  readonly parties: readonly AgedParty[];
  readonly buckets: readonly Minor[];
  readonly credits: Minor;
  readonly total: Minor;
  readonly daysOutstanding: readonly (number | null)[];
  /** lines of the accounts that name nobody: they are in the accounts' balance and in no row */
  readonly unnamed: { readonly lines: number; readonly amount: Minor };
  /** open items without a due date, aged by their document's date */
  readonly withoutDue: number;
  /** document numbers that a party has twice */
  readonly repeated: readonly { readonly party: string; readonly document: string }[];
};
const TREND_MONTHS = 12;
const DAYS_A_YEAR = 365;

/**
 * Receivables, or payables, by age at a date. The total and the unnamed lines add up to the balance of the accounts.
 * Days outstanding are what is owed over what was invoiced in the twelve months to the date, times 365 (from memory:
 * the textbook ratio, days in the period times receivables over credit sales).
 * @param lines of the accounts, in order of date; those after the date are left out
 */
export function agingAt(
  lines: readonly ControlLine[],
  { asOf, basis, buckets }: { readonly asOf: IsoDate; readonly basis: AgingBasis; readonly buckets: AgingBuckets },
): Aging {
  const upTo = lines.filter(({ date }) => date <= asOf);
  const named = upTo.filter(({ party }) => party !== '');
  const byParty = groupBy(named, ({ party }) => party);
  const count = bucketCount(basis, buckets);
  const parties = openItems(named).map(({ party, items, unapplied }): AgedParty => {
    const aged = items.map((item): AgedItem => {
      const date = basis === 'due' ? (item.due ?? item.date) : item.date;
      return { ...item, bucket: bucketAt(date, asOf, { basis, buckets }), days: daysBetween(date, asOf) };
    });
    const sums = Array.from({ length: count }, (_, bucket) => sumOf(aged.filter((item) => item.bucket === bucket).map(({ open }) => open)));
    const credits = minor(-sumOf(unapplied.map(({ amount }) => amount)));
    return {
      party,
      items: aged,
      unapplied,
      buckets: sums,
      credits,
      total: minor(sumOf(sums) + credits),
      daysOutstanding: daysOutstanding(byParty.get(party)!, asOf),
    };
  });
  const unnamed = upTo.filter(({ party }) => party === '');
  const items = parties.flatMap((each) => each.items.map((item) => ({ ...item, party: each.party })));
  const repeated = items.filter(({ isRepeated }) => isRepeated).map(({ party, document }) => ({ party, document }));
  return {
    parties,
    buckets: Array.from({ length: count }, (_, at) => sumOf(parties.map((each) => each.buckets[at]!))),
    credits: sumOf(parties.map(({ credits }) => credits)),
    total: sumOf(parties.map(({ total }) => total)),
    daysOutstanding: daysOutstanding(named, asOf),
    unnamed: { lines: unnamed.length, amount: sumOf(unnamed.map(({ amount }) => amount)) },
    withoutDue: items.filter(({ due }) => due === null).length,
    repeated: [...new Map(repeated.map((each) => [`${each.party}\n${each.document}`, each])).values()],
  };
}

const sumOf = (amounts: readonly number[]): Minor => minor(amounts.reduce((sum, amount) => sum + amount, 0));

function daysOutstanding(lines: readonly ControlLine[], asOf: IsoDate): (number | null)[] {
  return Array.from({ length: TREND_MONTHS }, (_, back) => {
    const end = monthsLater(asOf, -back);
    const start = monthsLater(end, -12);
    let [owed, invoiced] = [0, 0];
    for (const { date, amount } of lines) {
      if (date > end) break;
      owed += amount;
      if (date > start && amount > 0) invoiced += amount;
    }
    return invoiced === 0 ? null : Math.max(0, Math.round((owed / invoiced) * DAYS_A_YEAR));
  });
}

/**
 * What is expected not to be paid: a percentage of each bucket, each rounded by itself, credits left out.
 * @param percents a percentage for each bucket, as a factor: 2% is 0.02
 */
export function estimatedAllowance(
  buckets: readonly Minor[],
  percents: readonly Decimal[],
): { readonly byBucket: readonly Minor[]; readonly total: Minor } {
  const byBucket = buckets.map((amount, at) => (percents[at] ? minor(multiplyByDecimal(amount, percents[at])) : ZERO));
  return { byBucket, total: sumOf(byBucket) };
}
