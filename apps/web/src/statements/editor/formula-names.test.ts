import type { Column } from '@wise-margin/core';
import { describe, expect, it } from 'vitest';

import { fittingHeading, formulaName, isMadeOf } from './formula-names.ts';

describe('formula names', () => {
  it('are made of words, free, and never a function or a number', () => {
    expect(formulaName('Gross profit', ['gross_profit'])).toBe('gross_profit_2');
    expect(formulaName('2027 plan', [])).toBe('_2027_plan');
    expect(formulaName('Days', [])).toBe('days_2');
    expect(formulaName('%', [])).toBe('percent');
    expect(formulaName('x'.repeat(200), [])).toHaveLength(60);
  });
  it('follow the words they were made of', () => {
    expect([
      isMadeOf('budget_2', 'Budget'),
      isMadeOf('budget', 'Budget'),
      isMadeOf('plan', 'Budget'),
      isMadeOf('budget_x', 'Budget'),
    ]).toEqual([true, true, false, false]);
  });
});

describe('the heading a column gets', () => {
  const amount = { kind: 'amount', key: 'a', heading: '', scenario: 'actual', span: { kind: 'month' } } as const;
  it.each<[string, Column]>([
    ['Actual', amount],
    ['Prior year', { ...amount, span: { kind: 'month', shift: { years: -1 } } }],
    ['Budget', { ...amount, scenario: 'budget:4' }],
    ['Headcount', { ...amount, scenario: 'statistic:headcount' }],
    ['Variance', { kind: 'difference', key: 'd', heading: '', compared: 'a', base: 'b' }],
  ])('is %s', (heading, column) => expect(fittingHeading(column)).toBe(heading));
});
