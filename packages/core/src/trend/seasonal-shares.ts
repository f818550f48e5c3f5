/**
 * What share of its year each month has, as fractions that add up to 1. Null where the year's total is zero.
 * @param months twelve amounts
 * @example monthlyShares([1, 1, 2, 0]) // [0.25, 0.25, 0.5, 0]
 */
export function monthlyShares(months: readonly number[]): number[] | null {
  const total = months.reduce((sum, amount) => sum + amount, 0);
  return total === 0 ? null : months.map((amount) => amount / total);
}

/**
 * The mean of the yearly shares, each year counting the same whatever its size; years without a total
 * count for nothing. Null without any.
 */
export function averageOfShares(years: readonly (readonly number[])[]): number[] | null {
  const shares = years.flatMap((months) => {
    const own = monthlyShares(months);
    return own === null ? [] : [own];
  });
  if (shares.length === 0) return null;
  return shares[0]!.map((_, month) => shares.reduce((sum, year) => sum + year[month]!, 0) / shares.length);
}
