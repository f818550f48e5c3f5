import { expect, it } from 'vitest';

import { MONTH_NAMES, monthNumber } from './month-names.ts';

it.each([
  ['oct', 10],
  ['October', 10],
  ['OCTO', 10],
  ['may', 5],
  ['ju', 0],
  ['jun', 6],
  ['jul', 7],
  ['', 0],
  ['octopus', 0],
])('%s is month %d', (name, number) => expect(monthNumber(name)).toBe(number));
it('every month is found by its name and its first three letters', () =>
  expect(MONTH_NAMES.map((name) => [monthNumber(name), monthNumber(name.slice(0, 3))])).toEqual(
    Array.from({ length: 12 }, (_, at) => [at + 1, at + 1]),
  ));
