/**
 * The yearly rate that leads from one amount to another over a number of steps, as a fraction. Null where
 * the first is zero, the signs differ, or there is no step.
 * @example compoundGrowth(100, 121, 2) // 0.10000000000000009
 */
export function compoundGrowth(from: number, to: number, steps: number): number | null {
  if (steps < 1 || from === 0 || to / from < 0) return null;
  return (to / from) ** (1 / steps) - 1;
}
