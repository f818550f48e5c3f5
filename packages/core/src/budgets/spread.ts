import { apportionWhole } from '../money/apportion.ts';
import { parseDecimal, toCommonScale } from '../money/decimal.ts';
import type { Minor } from '../money/minor.ts';
import { exactAverageOfShares, wholeWeights } from '../trend/exact-shares.ts';

/** What a spread may draw on: twelve months each, in the order of the fiscal year. */
export type SpreadContext = {
  /** amounts of the year the spread follows */
  readonly history: readonly number[];
  readonly days: readonly number[];
  /** days from Monday to Friday */
  readonly workingDays: readonly number[];
  /** the months of an earlier year; null where there is no figure */
  readonly year: (year: number) => readonly (number | null)[];
  /** what other lines of the budget hold by month; null when there is no such line */
  readonly lines: (accounts: string) => readonly number[] | null;
};
type SpreadDefinition = {
  /** as it is offered */
  readonly name: string;
  /** in a sentence, after `spread` */
  readonly words: string;
  readonly weights: (context: SpreadContext) => readonly number[];
};

/** Shapes over the months that need nothing more said. Weights are not negative. */
export const SPREADS = {
  history: { name: 'Prior-year pattern', words: 'in the prior-year pattern', weights: ({ history }) => history.map(Math.abs) },
  even: { name: 'Evenly', words: 'evenly', weights: ({ days }) => days.map(() => 1) },
  days: { name: 'Days in month', words: 'by days in month', weights: ({ days }) => days },
  workingDays: { name: 'Business days', words: 'by business days', weights: ({ workingDays }) => workingDays },
} as const satisfies Readonly<Record<string, SpreadDefinition>>;
export type SpreadKind = keyof typeof SPREADS;
export const SPREAD_KINDS = Object.keys(SPREADS) as readonly SpreadKind[];

/**
 * The shape a total takes over the months: one of `SPREADS`, the average of the monthly shares of several
 * years, the months of another line of the budget, or weights of one's own.
 */
export type Spread =
  | SpreadKind
  | { readonly by: 'shares'; readonly years: readonly number[] }
  | { readonly by: 'line'; readonly accounts: string }
  | { readonly by: 'weights'; readonly weights: readonly number[] };

/** Whether a total takes the shape of other lines, and so follows them. */
export const isOfLine = (spread: Spread): spread is { readonly by: 'line'; readonly accounts: string } =>
  typeof spread === 'object' && spread.by === 'line';

/** A spread in words: `in the prior-year pattern`, `in the average shape of FY2024 to FY2026`, `like accounts 4000-4999`, `by custom weights`. */
export function spreadWords(spread: Spread): string {
  if (typeof spread === 'string') return SPREADS[spread].words;
  if (spread.by === 'line') return `like accounts ${spread.accounts}`;
  if (spread.by === 'weights') return 'by custom weights';
  const [first, last] = [Math.min(...spread.years), Math.max(...spread.years)];
  return `with average seasonality of ${first === last ? `FY${first}` : `FY${first} to FY${last}`}`;
}

/** Twelve whole weights in exact proportion, none negative; years that are not whole count for nothing, and a line that is not there weighs nothing. */
function spreadWeights(spread: Spread, context: SpreadContext): readonly bigint[] {
  if (typeof spread === 'string') return plain(SPREADS[spread].weights(context));
  if (spread.by === 'weights') return plain(spread.weights.map((weight) => Math.max(0, weight)));
  if (spread.by === 'line') return plain((context.lines(spread.accounts) ?? []).map(Math.abs));
  const whole = spread.years
    .map((year) => context.year(year).flatMap((amount) => (amount === null ? [] : [Math.abs(amount)])))
    .filter((months) => months.length === 12);
  return wholeWeights(exactAverageOfShares(whole) ?? []);
}

const plain = (weights: readonly number[]): bigint[] => toCommonScale(weights.map((weight) => parseDecimal(String(weight))));

/**
 * Spreads a total over the months chosen, exactly. Weights that are all zero in those months are taken as
 * even; months of either sign weigh by their size.
 * @param months positions 0..11 to spread over, at least one
 * @returns one amount for each of `months`, in their order, adding up to `total`
 * @throws ApportionError when `months` is empty
 */
export function spreadTotal(
  total: Minor,
  spread: Spread,
  options: { readonly months: readonly number[]; readonly context: SpreadContext },
): Minor[] {
  const all = spreadWeights(spread, options.context);
  const weights = options.months.map((month) => all[month] ?? 0n);
  return apportionWhole(total, weights.every((weight) => weight === 0n) ? weights.map(() => 1n) : weights);
}
