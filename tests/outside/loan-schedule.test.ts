import { IPMT, PMT, PPMT } from '@formulajs/formulajs';
import { levelPayment, loanSchedule, minor } from '@wise-margin/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

// payment, interest, principal and balance of each month against the financial functions of @formulajs/formulajs,
// which do not round to cents: a schedule in whole cents strays by no more than half a cent a month, compounded
const loans = [
  { principal: 62700947, ratePercent: '5.2', payments: 72 },
  { principal: 100000, ratePercent: '18', payments: 12 },
  { principal: 2500000000, ratePercent: '3.875', payments: 360 },
  { principal: 120000, ratePercent: '0', payments: 24 },
];

describe('loan schedule against a formula library', () => {
  it.each(loans)('$principal at $ratePercent % in $payments months', ({ principal, ratePercent, payments }) => {
    const rate = Number(ratePercent) / 1200;
    const schedule = loanSchedule(minor(principal), { form: 'level', ratePercent, payments });
    expect(schedule).toHaveLength(payments);
    expect(
      Math.abs(levelPayment(minor(principal), { ratePercent, payments }) + Number(PMT(rate, payments, principal))),
    ).toBeLessThanOrEqual(0.5);
    let balance = principal;
    schedule.forEach((month, index) => {
      const period = index + 1;
      const interest = -Number(IPMT(rate, period, payments, principal));
      const part = -Number(PPMT(rate, period, payments, principal));
      balance -= part;
      // half a cent of payment and half of interest a month, with the interest they bear
      const stray = period * (1 + rate) ** period + 1;
      expect(Math.abs(month.interest - interest), `interest of month ${period}`).toBeLessThanOrEqual(stray);
      expect(Math.abs(month.balance - balance), `balance after month ${period}`).toBeLessThanOrEqual(stray);
      if (period < payments) expect(Math.abs(month.principal - part), `principal of month ${period}`).toBeLessThanOrEqual(stray);
    });
    expect(schedule.at(-1)!.balance).toBe(0);
  });

  it('is exact in every form: principal adds up to the loan, and each payment is its parts', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 9_000_000_000 }),
        fc.integer({ min: 0, max: 3000 }),
        fc.integer({ min: 1, max: 120 }),
        fc.constantFrom('level', 'straight', 'atEnd'),
        (principal, hundredths, payments, form) => {
          const schedule = loanSchedule(minor(principal), { form, ratePercent: String(hundredths / 100), payments });
          expect(schedule.reduce((sum, month) => sum + month.principal, 0)).toBe(principal);
          let balance = principal;
          for (const month of schedule) {
            expect(month.payment).toBe(month.interest + month.principal);
            expect(month.balance).toBe((balance -= month.principal));
            expect(month.balance).toBeGreaterThanOrEqual(0);
          }
        },
      ),
      { seed: 17 },
    );
  });

  it('refuses what is no loan, and has no months without one', () => {
    expect(() => loanSchedule(minor(1000), { form: 'level', ratePercent: '5', payments: 0 })).toThrow('1 to 1,200 months');
    expect(() => loanSchedule(minor(1000), { form: 'level', ratePercent: '-1', payments: 12 })).toThrow('rate of 0% or more');
    expect(loanSchedule(minor(0), { form: 'level', ratePercent: '5', payments: 12 })).toEqual([]);
  });
});
