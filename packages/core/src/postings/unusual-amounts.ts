import type { Bills } from './bills.ts';
import { medianOf, robustSpread } from './median.ts';

/** A bill far from what its account and party usually have. */
export type UnusualAmount = {
  readonly bill: number;
  /** the median of the group's other bills, without a sign, in minor units */
  readonly usual: number;
  /** its size over the usual one */
  readonly times: number;
  readonly kind: 'tenfold' | 'tenth' | 'digitsSwapped' | 'large';
  /** how many spreads its logarithm lies from the median */
  readonly spreads: number;
};

const FEWEST = 5;
/** Groups with less spread than this are taken to have it: a rent that never changes has none. */
const LEAST_SPREAD = 0.08;
const FAR = 4;

/**
 * Bills whose size is far from the group's: measured on logarithms, by the median and the scaled median absolute
 * deviation, so that the mistake itself does not widen the measure. Groups of fewer than five bills tell nothing.
 * About ten times, or a tenth, of the usual points to a digit too many or too few; a steady amount with two neighboring
 * digits changed over points to a slip of the keys.
 */
export function unusualAmounts({ amount }: Bills, bills: ArrayLike<number>): UnusualAmount[] {
  const sized: number[] = [];
  for (let at = 0; at < bills.length; at += 1) if (amount[bills[at]!] !== 0) sized.push(bills[at]!);
  if (sized.length < FEWEST) return [];
  const logs = sized.map((bill) => Math.log(Math.abs(amount[bill]!)));
  const median = medianOf(logs);
  const spread = robustSpread(logs, median);
  const usual = Math.round(Math.exp(median));
  // of a standing charge most are alike to the cent
  const isSteady = spread === 0 && sized.filter((bill) => Math.abs(amount[bill]!) === usual).length > sized.length / 2;
  return sized.flatMap((bill, at): UnusualAmount[] => {
    const size = Math.abs(amount[bill]!);
    const spreads = Math.abs(logs[at]! - median) / Math.max(spread, LEAST_SPREAD);
    const times = size / usual;
    const found = (kind: UnusualAmount['kind']): UnusualAmount[] => [{ bill, usual, times, kind, spreads }];
    if (isSteady && size !== usual && hasDigitsSwapped(size, usual)) return found('digitsSwapped');
    if (spreads < FAR) return [];
    if (times >= 7.5 && times <= 13.5) return found('tenfold');
    if (times >= 1 / 13.5 && times <= 1 / 7.5) return found('tenth');
    return times > 2 ? found('large') : [];
  });
}

/** Whether two numbers differ by two neighboring digits changed over. */
export function hasDigitsSwapped(a: number, b: number): boolean {
  // an exchange of digits changes an amount by a multiple of nine
  if ((a - b) % 9 !== 0) return false;
  const [one, other] = [String(a), String(b)];
  if (one.length !== other.length || a === b) return false;
  const at = [...one].findIndex((digit, place) => digit !== other[place]);
  return one[at] === other[at + 1] && one[at + 1] === other[at] && one.slice(at + 2) === other.slice(at + 2);
}
