import { apportion } from '../money/apportion.ts';
import type { Minor } from '../money/minor.ts';

/** What a spread may draw on: twelve months each, in the order of the fiscal year. */
export type SpreadContext = {
  /** amounts of the year the spread follows */
  readonly history: readonly number[];
  readonly days: readonly number[];
};
type SpreadDefinition = { readonly words: string; readonly weights: (context: SpreadContext) => readonly number[] };

/** The shapes a year total can take over the months. Weights are not negative. */
export const SPREADS = {
  history: { words: 'as history', weights: ({ history }) => history.map(Math.abs) },
  even: { words: 'even', weights: ({ days }) => days.map(() => 1) },
  days: { words: 'by days', weights: ({ days }) => days },
} as const satisfies Readonly<Record<string, SpreadDefinition>>;
export type SpreadKind = keyof typeof SPREADS;
export const SPREAD_KINDS = Object.keys(SPREADS) as readonly SpreadKind[];

/**
 * Spreads a total over the months chosen, exactly. History without any amount in those months is
 * spread evenly; months of either sign weigh by their size.
 * @param months positions 0..11 to spread over, at least one
 * @returns one amount for each of `months`, in their order, adding up to `total`
 * @throws ApportionError when `months` is empty
 */
export function spreadTotal(
  total: Minor,
  kind: SpreadKind,
  options: { readonly months: readonly number[]; readonly context: SpreadContext },
): Minor[] {
  const all = SPREADS[kind].weights(options.context);
  const weights = options.months.map((month) => all[month] ?? 0);
  return apportion(total, weights.every((weight) => weight === 0) ? weights.map(() => 1) : weights);
}
