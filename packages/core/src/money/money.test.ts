import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { apportion, ApportionError } from './apportion.ts';
import { currency } from './currency.ts';
import { multiplyByDecimal, parseDecimal } from './decimal.ts';
import { displayStep, formatAmount, toDecimalText } from './format-amount.ts';
import { AmountOverflowError, minor } from './minor.ts';
import { parseAmount, parseTypedAmount } from './parse-amount.ts';
import { roundHalfAway, roundToStep } from './round.ts';

const anyMinor = fc.integer({ min: -9e15, max: 9e15 });

describe('parseTypedAmount', () => {
  it.each([
    ['$2,214.30', 221_430],
    ['(500)', -50_000],
    ['($1,200.50)', -120_050],
    ['-$500', -50_000],
    ['1,250-', -125_000],
    ['USD 12', 1200],
    ['12.5', 1250],
  ])('reads %s', (text, value) => expect(parseTypedAmount(text, 2)).toEqual({ ok: true, value }));
  it.each(['1,5', 'abc', '', '12.345'])('refuses %j', (text) => expect(parseTypedAmount(text, 2).ok).toBe(false));
});

describe('parseAmount', () => {
  it.each([
    ['0', 2, 0],
    ['12', 2, 1200],
    ['12.3', 2, 1230],
    ['-12.34', 2, -1234],
    ['+5', 2, 500],
    ['.5', 2, 50],
    ['5.', 2, 500],
    [' 7.00 ', 2, 700],
    ['-0', 2, 0],
    ['120', 0, 120],
    ['1.234', 3, 1234],
  ])('reads %s with %i decimals', (text, exponent, value) => expect(parseAmount(text, exponent)).toEqual({ ok: true, value }));
  it.each([
    ['', 'empty'],
    ['1,234.50', 'thousandsSeparator'],
    ["1'234.50", 'thousandsSeparator'],
    ['(12.00)', 'parentheses'],
    ['12.00-', 'trailingMinus'],
    ['$12.00', 'currencySign'],
    ['12.00 USD', 'currencySign'],
    ['1e5', 'exponentNotation'],
    ['1.234', 'tooManyDecimals'],
    ['1,5', 'decimalComma'],
    ['.', 'notANumber'],
    ['--5', 'notANumber'],
    ['NaN', 'notANumber'],
    ['Infinity', 'notANumber'],
    ['0x10', 'notANumber'],
    ['99999999999999999999', 'tooLarge'],
  ])('refuses %j as %s', (text, code) => expect(parseAmount(text, 2)).toMatchObject({ ok: false, issue: { code } }));
  it('never goes through a float: 90071992547409.91 keeps its cent', () =>
    expect(parseAmount('71992547409.91', 2)).toEqual({ ok: true, value: 7199254740991 }));
  it('reads back what it writes', () =>
    fc.assert(
      fc.property(anyMinor, fc.integer({ min: 0, max: 3 }), (value, exponent) => {
        expect(parseAmount(toDecimalText(minor(value), exponent), exponent)).toEqual({ ok: true, value: value === 0 ? 0 : value });
      }),
    ));
});

describe('apportion', () => {
  it('always gives the exact total, each part within one unit of its quota, in the sign of the total', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: -1e12, max: 1e12 }),
        fc.array(fc.double({ min: 0, max: 1e6, noNaN: true }), { minLength: 1, maxLength: 30 }),
        (total, weights) => {
          fc.pre(weights.some((weight) => weight > 0));
          const parts = apportion(minor(total), weights);
          expect(parts.reduce<number>((sum, part) => sum + part, 0)).toBe(total === 0 ? 0 : total);
          for (const [index, part] of parts.entries()) {
            expect(Object.is(part, -0)).toBe(false);
            if (weights[index] === 0) expect(part).toBe(0);
            expect(Math.sign(part) === 0 || Math.sign(part) === Math.sign(total)).toBe(true);
          }
        },
      ),
    ));
  it('refuses weights it cannot share by', () => {
    expect(() => apportion(minor(1), [])).toThrow(ApportionError);
    expect(() => apportion(minor(1), [0, 0])).toThrow('all weights are zero');
    expect(() => apportion(minor(1), [1, -1])).toThrow('a weight is negative');
  });
});

describe('rounding and decimals', () => {
  it('rounds half away from zero', () => expect([2.5, -2.5, 2.4, -0.4, 0].map(roundHalfAway)).toEqual([3, -3, 2, 0, 0]));
  it('rounds to a step', () =>
    expect([149, 150, -150, -149, 7].map((value) => roundToStep(value, 100))).toEqual([100, 200, -200, -100, 0]));
  it('multiplies exactly: 1.15 x 100 rounds up where a double would not', () =>
    expect(multiplyByDecimal(100, parseDecimal('1.155'))).toBe(116));
  it('reads exponents', () => expect(parseDecimal('1.5e-7')).toEqual({ digits: 15n, scale: 8 }));
});

describe('formatAmount', () => {
  it.each([
    [0, 'cents', '–'],
    [123456, 'cents', '1,234.56'],
    [-123456, 'cents', '(1,234.56)'],
    [123456, 'dollars', '1,235'],
    [-50, 'dollars', '(1)'],
    [49, 'dollars', '0'],
    [-49, 'dollars', '0'],
    [123456789, 'thousands', '1,235'],
    [155000000, 'millions', '1.6'],
  ] as const)('%i in %s is %s', (value, unit, text) => expect(formatAmount(minor(value), { exponent: 2, unit })).toBe(text));
  it('takes decimals of the unit, a minus and a sign', () => {
    const thousands = { exponent: 2, unit: 'thousands', decimals: 2, negatives: 'minus', sign: '$' } as const;
    expect(formatAmount(minor(-123456789), thousands)).toBe('−$1,234.57');
    expect(formatAmount(minor(123456), { exponent: 2, unit: 'dollars', decimals: 9 })).toBe('1,234.56');
    expect(formatAmount(minor(-500), { exponent: 0, unit: 'millions', decimals: 0, sign: '¥' })).toBe('¥0');
    expect(displayStep({ exponent: 2, unit: 'thousands' })).toBe(100_000);
    expect(displayStep({ exponent: 0, unit: 'dollars', decimals: 2 })).toBe(1);
  });
  it('knows currencies without decimals', () => {
    expect(currency('JPY').exponent).toBe(0);
    expect(formatAmount(minor(1234), { exponent: 0, unit: 'cents' })).toBe('1,234');
    expect(() => currency('dollars')).toThrow('three-letter');
  });
});

describe('minor', () => {
  it('takes whole exact numbers only, and no minus zero', () => {
    expect(Object.is(minor(-0), 0)).toBe(true);
    expect(() => minor(0.5)).toThrow(AmountOverflowError);
    expect(() => minor(2 ** 53)).toThrow(AmountOverflowError);
  });
});
