/**
 * Where cash stands lowest: the opening balance or a month end, the earliest of equals.
 * @param opening cash before the first month, and `months` at the end of each, minor units
 * @returns the month's position, or -1 for the opening balance
 */
export function lowestCash(opening: number, months: readonly number[]): number {
  const all = [opening, ...months];
  return all.indexOf(Math.min(...all)) - 1;
}
