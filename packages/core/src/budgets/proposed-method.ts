import type { AccountClass } from '../chart/account-class.ts';
import { monthlyShares } from '../trend/seasonal-shares.ts';

/** How an account's budget starts when its own history decides. */
export type ProposedMethod = {
  readonly method: 'sameMonths' | 'averageShape' | 'evenYear' | 'fixedAmount';
  /**
   * what decided: depreciation follows its assets; too few whole years, or years that cancel out, show
   * nothing that repeats; otherwise the part of the variation that repeats
   */
  readonly because: 'depreciation' | 'fewYears' | 'noVariation' | 'variation';
  /** the part of the monthly variation that repeats each year, 0 to 1; null where history is too short to say */
  readonly repeats: number | null;
};

/** The parts of the monthly variation that must repeat. */
export const REPEATS = { sameMonths: 0.8, averageShape: 0.4 } as const;
// shares of a year that lie this near a twelfth are even: half a percent of the year
const EVEN = 0.005;

/**
 * How much of the variation between months repeats each year. Each year's months are taken as shares of the
 * year, so that growth counts for nothing; of their variation around a twelfth, the part that lies in the
 * average year, less what chance alone would put there (one k-th with k years).
 * Source: the coefficient of determination of a one-way analysis of variance by month, adjusted.
 * @param years whole years of twelve amounts
 * @returns 0 (noise) to 1 (the same shape each year); null with fewer than two years that have a total, or without any variation
 */
export function repeatingVariation(years: readonly (readonly number[])[]): number | null {
  const shares = years.flatMap((months) => {
    const own = monthlyShares(months);
    return own === null || own.some((share) => Math.abs(share) > 2) ? [] : [own];
  });
  if (shares.length < 2) return null;
  const even = 1 / 12;
  const square = (value: number) => (value - even) ** 2;
  const sum = (values: readonly number[]) => values.reduce((total, value) => total + value, 0);
  const profile = shares[0]!.map((_, month) => sum(shares.map((year) => year[month]!)) / shares.length);
  const all = sum(shares.flat().map(square));
  if (shares.flat().every((share) => Math.abs(share - even) < EVEN)) return null;
  const repeated = (shares.length * sum(profile.map(square))) / all;
  const chance = 1 / shares.length;
  return Math.min(1, Math.max(0, (repeated - chance) / (1 - chance)));
}

/**
 * The method an account's own history asks for: what repeats takes the same months or the average shape,
 * noise is spread evenly, depreciation stays at its latest month.
 * @param years whole years before the budget, twelve amounts each, in any sign
 */
export function proposedMethod(of: AccountClass, years: readonly (readonly number[])[]): ProposedMethod {
  if (of === 'depreciation') return { method: 'fixedAmount', because: 'depreciation', repeats: null };
  const posted = years.filter((months) => months.some((amount) => amount !== 0));
  if (posted.length < 2) return { method: 'sameMonths', because: 'fewYears', repeats: null };
  const repeats = repeatingVariation(posted);
  if (repeats === null) {
    const isEven = posted.every((months) => monthlyShares(months)?.every((share) => Math.abs(share - 1 / 12) < EVEN) ?? false);
    return isEven
      ? { method: 'evenYear', because: 'noVariation', repeats: null }
      : { method: 'sameMonths', because: 'fewYears', repeats: null };
  }
  const method = repeats >= REPEATS.sameMonths ? 'sameMonths' : repeats >= REPEATS.averageShape ? 'averageShape' : 'evenYear';
  return { method, because: 'variation', repeats };
}
