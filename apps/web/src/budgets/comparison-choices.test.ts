import { describe, expect, it } from 'vitest';

import { comparisonChoices } from './comparison-choices.ts';

const period = (year: number, number: number) => ({
  key: `${year}-${String(number).padStart(2, '0')}`,
  year,
  number,
  name: '',
  longName: '',
});
const company = (lastActual: string | null) => ({
  lastActual,
  periods: [2026, 2027, 2028].flatMap((year) => Array.from({ length: 12 }, (_, month) => period(year, month + 1))),
});
const budget = (id: number, year: number, more: Partial<Parameters<typeof comparisonChoices>[1]> = {}) => ({
  id,
  name: `Plan ${id}`,
  year,
  state: 'draft' as const,
  copiedFrom: null,
  ...more,
});
const values = (...arguments_: Parameters<typeof comparisonChoices>) => comparisonChoices(...arguments_).map(([value]) => value);

describe('what a budget is compared with first', () => {
  it('is the version it was copied from, whatever its state', () =>
    expect(
      values(company('2027-10'), budget(9, 2028, { copiedFrom: 3 }), [budget(2, 2028, { state: 'approved' }), budget(3, 2028)])[0],
    ).toBe('3'));
  it('else the approved version of its year, then another draft of it', () =>
    expect(values(company('2027-10'), budget(9, 2028), [budget(3, 2028), budget(2, 2028, { state: 'approved' })]).slice(0, 2)).toEqual([
      '2',
      '3',
    ]));
  it('else the projection of the year before, never a scenario without an amount', () => {
    const choices = comparisonChoices(company('2027-10'), budget(9, 2028), [budget(1, 2026)]);
    expect(choices).toEqual([
      ['priorYear', 'Projection, FY2027'],
      ['1', 'Plan 1, FY2026'],
    ]);
  });
  it('offers actuals and projection of its own year once that year has postings', () =>
    expect(values(company('2028-02'), budget(9, 2028), [])).toEqual(['priorYear', 'actual', 'projection']));
  it('offers the projection of a year without postings when it has an approved budget', () =>
    expect(values(company('2027-10'), budget(9, 2028), [budget(2, 2028, { state: 'approved' })])).toEqual([
      '2',
      'priorYear',
      'projection',
    ]));
  it('offers nothing to a company without postings and other budgets', () =>
    expect(values(company(null), budget(9, 2028), [])).toEqual([]));
});
