/**
 * Rounds a real number to a whole one, half away from zero, never to minus zero.
 * @example roundHalfAway(-2.5) // -3
 */
export function roundHalfAway(value: number): number {
  const rounded = Math.sign(value) * Math.floor(Math.abs(value) + 0.5);
  return rounded === 0 ? 0 : rounded;
}

/**
 * Rounds a whole number to a multiple of `step`, half away from zero, in exact integer arithmetic.
 * A step of 0 or 1 leaves the value as it is.
 * @example roundToStep(-150, 100) // -200
 */
export function roundToStep(value: number, step: number): number {
  if (step <= 1) return value;
  const size = Math.abs(value);
  const rest = size % step;
  const rounded = size - rest + (rest * 2 >= step ? step : 0);
  return value < 0 && rounded !== 0 ? -rounded : rounded;
}
