import fc from 'fast-check';
import { expect, it } from 'vitest';

import { dayOfMonth } from './day-of-month.ts';

it('is what the date says, for any day of many years', () =>
  fc.assert(
    fc.property(fc.integer({ min: -100_000, max: 100_000 }), (day) => {
      expect(dayOfMonth(day)).toBe(Number(new Date(day * 86_400_000).toISOString().slice(-16, -14)));
    }),
  ));
