import type { Polarity } from '../chart/account-class.ts';

/** Favorable or unfavorable to the result. */
export type Favor = 'F' | 'U';

/**
 * Whether a difference (compared less base, in the line's shown sign) helps the result. Nothing for
 * no difference and for neutral lines.
 * @example favorOf(-500, 'lowerIsBetter') // 'F': an expense under budget
 */
export function favorOf(difference: number, polarity: Polarity): Favor | undefined {
  if (difference === 0 || polarity === 'neutral') return undefined;
  return difference > 0 === (polarity === 'higherIsBetter') ? 'F' : 'U';
}
