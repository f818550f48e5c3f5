/** Rates of a month: units of the combined currency for one unit of a company's. */
export type MonthRates = {
  /** for what flows in the month: income and expenses */
  readonly average: number;
  /** for balances at its end */
  readonly closing: number;
};
/** Rates by month key, such as `2026-10`. */
export type RateTable = ReadonlyMap<string, MonthRates>;

/** The months among those given that have no rates, in order. */
export const monthsWithoutRates = (rates: RateTable, months: readonly string[]): string[] => months.filter((month) => !rates.has(month));

/**
 * The rates of a month, or where it has none yet the latest before it, as a budget of coming months needs them;
 * before the first rates, those. Null for an empty table.
 */
export function latestRates(rates: RateTable, month: string): MonthRates | null {
  const own = rates.get(month);
  if (own) return own;
  const months = [...rates.keys()].sort();
  const latest = months.findLast((each) => each < month) ?? months[0];
  return latest === undefined ? null : rates.get(latest)!;
}
