import { type Minor, minor } from '../money/minor.ts';
import { roundHalfAway } from '../money/round.ts';

/** What selected figures come to: how many, their sum, and their mean rounded half away from zero to the minor unit; null without any. */
export function selectionFigures(
  amounts: readonly Minor[],
): { readonly count: number; readonly sum: Minor; readonly average: Minor } | null {
  if (amounts.length === 0) return null;
  const sum = amounts.reduce<number>((total, amount) => total + amount, 0);
  return { count: amounts.length, sum: minor(sum), average: minor(roundHalfAway(sum / amounts.length)) };
}
