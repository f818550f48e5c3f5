/**
 * Where cash stands lowest: the opening balance or a month end, the earliest of equals.
 * @param opening cash before the first month, and `months` at the end of each, minor units
 * @returns the month's position, or -1 for the opening balance
 */
export const lowestCash = (opening: number, months: readonly number[]): number =>
  [opening, ...months].reduce((least, cash, at, all) => (cash < all[least]! ? at : least), 0) - 1;
