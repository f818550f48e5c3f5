/** A month's flow, such as its revenue in minor units, and its days. A flow below zero counts as none. */
export type MonthlyFlow = { readonly amount: number; readonly days: number };

const flowOf = ({ amount }: MonthlyFlow): number => Math.max(0, amount);

/** What a day brings on average over all months; zero when they bring nothing. */
function dailyRate(flows: readonly MonthlyFlow[]): number {
  const days = flows.reduce((sum, each) => sum + each.days, 0);
  return days === 0 ? 0 : flows.reduce((sum, each) => sum + flowOf(each), 0) / days;
}

/**
 * The balance that stands for the flow of the last so many days, counted back from a month's end: whole
 * months first, then a part of the month before them. In a seasonal trade this follows the season, where
 * an average over the year does not. Days past the months given count at their average.
 * Source: count-back (exhaustion) method of days sales outstanding.
 * @param days below zero gives a balance below zero
 * @param flows the latest month first
 * @returns unrounded; null when no month has any flow
 * @example balanceOfDays(45, [{ amount: 3000, days: 30 }, { amount: 6200, days: 31 }]) // 6000
 */
export function balanceOfDays(days: number, flows: readonly MonthlyFlow[]): number | null {
  const rate = dailyRate(flows);
  if (rate === 0) return null;
  let left = Math.abs(days);
  let balance = 0;
  for (const month of flows) {
    if (left === 0) break;
    const taken = Math.min(left, month.days);
    balance += (flowOf(month) * taken) / month.days;
    left -= taken;
  }
  return Math.sign(days) * (balance + left * rate);
}

/**
 * How many days of flow a balance stands for, counted back from its month's end; what `balanceOfDays` turns
 * back into the balance.
 * @param flows the latest month first
 * @returns null when no month has any flow; below zero for a balance below zero
 * @example daysOfBalance(6000, [{ amount: 3000, days: 30 }, { amount: 6200, days: 31 }]) // 45
 */
export function daysOfBalance(balance: number, flows: readonly MonthlyFlow[]): number | null {
  const rate = dailyRate(flows);
  if (rate === 0) return null;
  let left = Math.abs(balance);
  let days = 0;
  for (const month of flows) {
    const flow = flowOf(month);
    if (left === 0) break;
    if (flow >= left) return Math.sign(balance) * (days + (left / flow) * month.days);
    left -= flow;
    days += month.days;
  }
  return Math.sign(balance) * (days + left / rate);
}
