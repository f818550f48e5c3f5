type Sides = { readonly compared: string; readonly base: string };

/**
 * Headings of the sides of a difference, from their words: the scenarios where they differ, else their months.
 * @example `Actual, Oct 2026` and `Budget, Oct 2026` are `Actual` and `Budget`
 */
export function sideNames({ compared, base }: Sides): Sides {
  const [[scenario = '', ...months], [otherScenario = '', ...otherMonths]] = [compared.split(', '), base.split(', ')];
  return scenario === otherScenario
    ? { compared: months.join(', '), base: otherMonths.join(', ') }
    : { compared: scenario, base: otherScenario };
}
