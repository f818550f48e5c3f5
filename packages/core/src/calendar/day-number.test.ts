import fc from 'fast-check';
import { expect, it } from 'vitest';

import { dayNumber, daysBetween, daysLater } from './day-number.ts';
import { isoDate } from './iso-date.ts';

it.each([
  ['2026-10-31', 1, '2026-11-01'],
  ['2026-01-01', -1, '2025-12-31'],
  ['2028-02-28', 1, '2028-02-29'],
  ['2026-02-28', 1, '2026-03-01'],
  ['2026-09-01', -75, '2026-06-18'],
  ['2026-10-31', 0, '2026-10-31'],
] as const)('%s and %d days is %s', (from, count, to) =>
  expect(daysLater(isoDate(Number(from.slice(0, 4)), Number(from.slice(5, 7)), Number(from.slice(8))), count)).toBe(to),
);
it('days later are as many days between, whatever the day', () =>
  fc.assert(
    fc.property(
      fc.integer({ min: 1970, max: 2100 }),
      fc.integer({ min: 1, max: 12 }),
      fc.integer({ min: 1, max: 28 }),
      fc.integer({ min: -2000, max: 2000 }),
      (year, month, day, count) => {
        const from = isoDate(year, month, day);
        expect(daysBetween(from, daysLater(from, count))).toBe(count);
        expect(dayNumber(daysLater(from, count))).toBe(dayNumber(from) + count);
      },
    ),
  ));
