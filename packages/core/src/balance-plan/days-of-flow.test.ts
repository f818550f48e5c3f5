import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { balanceOfDays, daysOfBalance } from './days-of-flow.ts';

const months = fc.array(fc.record({ amount: fc.integer({ min: 1, max: 1e9 }), days: fc.integer({ min: 28, max: 31 }) }), {
  minLength: 1,
  maxLength: 36,
});

describe('days of a flow', () => {
  it('counts whole months back and then a part', () => {
    const flows = [
      { amount: 3000, days: 30 },
      { amount: 6200, days: 31 },
    ];
    expect(balanceOfDays(30, flows)).toBe(3000);
    expect(daysOfBalance(3000 + 200 * 10, flows)).toBe(40);
    expect(balanceOfDays(-40, flows)).toBe(-5000);
    expect(daysOfBalance(-5000, flows)).toBe(-40);
    expect(balanceOfDays(0, flows)).toBe(0);
  });

  it('goes on at the average past the months there are', () => {
    const flows = [{ amount: 3000, days: 30 }];
    expect(balanceOfDays(60, flows)).toBe(6000);
    expect(daysOfBalance(6000, flows)).toBe(60);
  });

  it('has nothing to count in without a flow', () => {
    for (const flows of [[], [{ amount: 0, days: 31 }], [{ amount: -500, days: 31 }]]) {
      expect(balanceOfDays(30, flows)).toBeNull();
      expect(daysOfBalance(1000, flows)).toBeNull();
    }
  });

  it('turns every balance into days and back', () => {
    fc.assert(
      fc.property(months, fc.integer({ min: -1e11, max: 1e11 }), (flows, balance) => {
        const days = daysOfBalance(balance, flows)!;
        expect(Math.abs(balanceOfDays(days, flows)! - balance)).toBeLessThanOrEqual(Math.max(1e-3, Math.abs(balance) * 1e-9));
      }),
      { seed: 5 },
    );
  });

  it('is more for more days', () => {
    fc.assert(
      fc.property(months, fc.integer({ min: 0, max: 2000 }), fc.integer({ min: 0, max: 2000 }), (flows, a, b) => {
        const [less, more] = [Math.min(a, b), Math.max(a, b)];
        expect(balanceOfDays(less, flows)!).toBeLessThanOrEqual(balanceOfDays(more, flows)! + 1e-6);
      }),
      { seed: 6 },
    );
  });
});
