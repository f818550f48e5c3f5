import { describe, expect, it } from 'vitest';

import { figureText } from './cell-text.ts';

const shown = (value: number, unit: 'percent' | 'points' | 'times' | 'days', withUnit = false) =>
  figureText({ kind: 'ratio', value, unit }, { exponent: 2, unit: 'dollars', withUnit });

describe('figures as they are written', () => {
  it.each([
    [0.1234, '12.3'],
    [0.1235, '12.4'],
    [-0.1235, '(12.4)'],
    [0.0004, '0.0'],
    [-0.0004, '0.0'],
    [12.34567, '1,234.6'],
    [0.285, '28.5'],
    [0, '0.0'],
  ])('the percentage %d reads %s', (value, text) => expect(shown(value, 'percent')).toBe(text));
  it('carry their unit where the heading does not', () => {
    expect(shown(0.389, 'percent', true)).toBe('38.9%');
    expect(shown(-0.037, 'points')).toBe('(3.7 pts)');
    expect(shown(2.96, 'times')).toBe('2.96');
    expect(shown(31.2, 'days')).toBe('31.2 d');
  });
  it('have their minus and decimals as asked', () => {
    const format = { exponent: 2, unit: 'dollars', negatives: 'minus', ratioDecimals: 3 } as const;
    expect(figureText({ kind: 'ratio', value: -0.1, unit: 'percent' }, format)).toBe('−10.000');
    expect(figureText({ kind: 'amount', value: -150 }, { ...format, sign: '$' })).toBe('−$2');
    expect(figureText({ kind: 'quantity', value: 1234.5 }, { exponent: 2, unit: 'dollars' })).toBe('1,234.5');
  });
  it('say n/m or nothing', () => {
    expect(figureText({ kind: 'notMeaningful', reason: 'zeroBase' }, { exponent: 2, unit: 'cents' })).toBe('n/m');
    expect(figureText({ kind: 'blank', reason: 'noBudget' }, { exponent: 2, unit: 'cents' })).toBe('');
    expect(figureText({ kind: 'amount', value: 0 }, { exponent: 2, unit: 'cents' })).toBe('–');
  });
});
