import { basisSchema } from '@wise-margin/contract';
import { type Basis, BASIS_KINDS, minor } from '@wise-margin/core';
import { describe, expect, it } from 'vitest';

import { basisOf, draftOf } from './basis-draft.ts';

const at = { exponent: 2, budgetYear: 2028 };
const some: Readonly<Record<Basis['kind'], Basis>> = {
  sameMonths: { kind: 'sameMonths', year: 2026, changePercent: '3', roundTo: minor(10_000) },
  yearTotal: {
    kind: 'yearTotal',
    year: 2026,
    changePercent: '2',
    spread: { by: 'weights', weights: [1, 1, 1, 1, 1, 1, 2, 2, 2, 2, 2, 2] },
    includeNonrecurring: true,
  },
  averageYears: { kind: 'averageYears', years: [2026, 2027], changePercent: '-1.5', least: minor(0) },
  latestMonths: { kind: 'latestMonths', count: 6, changePercent: '0', fromMonth: 3 },
  trend: { kind: 'trend', of: 'years', years: [2025, 2026, 2027], seasonal: true },
  percentOf: { kind: 'percentOf', accounts: '4000-4199', percent: '41' },
  driverRate: { kind: 'driverRate', driver: { series: 'guests' }, rates: [{ from: 0, value: '12.5' }], unit: 100 },
  fixedMonths: {
    kind: 'fixedMonths',
    steps: [
      { from: 0, value: minor(160_050) },
      { from: 5, value: minor(170_000) },
    ],
    months: [0, 6],
  },
  payroll: {
    kind: 'payroll',
    positions: [
      { name: 'Guide', heads: 2, yearlyPay: minor(4_000_000), startMonth: 3, raiseMonth: 6, raisePercent: '2.5' },
      { name: 'Clerk', heads: 0.5, yearlyPay: minor(3_000_000), startMonth: 0 },
    ],
    onCostPercent: '20',
  },
  typedTotal: { kind: 'typedTotal', total: minor(-120_000), spread: 'even', most: minor(500_000) },
  typed: { kind: 'typed' },
};

describe('a basis while it is typed', () => {
  it.each(BASIS_KINDS)('%s is read back as it was, and taken by the contract', (kind) => {
    const basis = some[kind];
    expect(basisOf(draftOf(basis, at), at)).toEqual({ ok: true, basis });
    expect(basisSchema.parse(basis)).toEqual(basis);
  });
  it.each([
    [{ kind: 'sameMonths', change: 'three' } as const, 'Change: "three" is not a number'],
    [{ kind: 'fixedMonths', steps: [{ from: 0, value: '12,50x' }] } as const, 'Amount: "12,50x" is not an amount'],
    [{ kind: 'driverRate', numbers: '1 2 3', steps: [{ from: 0, value: '2' }] } as const, 'Numbers: there are 3. Enter twelve'],
    [{ kind: 'percentOf', accounts: ' ' } as const, 'Accounts: enter those it depends on'],
    [{ kind: 'sameMonths', changeAmount: 'some' } as const, 'By amount: "some" is not an amount'],
    [
      { kind: 'typedTotal', total: '5', spread: 'shares', spreadYears: '0' } as const,
      'Years of seasonality: enter a whole number from 1 to 10',
    ],
    [{ kind: 'averageYears', years: '0' } as const, 'Years: enter a whole number from 1 to 10'],
    [{ kind: 'payroll', onCost: '' } as const, 'Payroll taxes and benefits: "" is not a number'],
  ])('%o says what is wrong and what to write', (typed, words) => {
    const result = basisOf({ ...draftOf({ kind: 'typed' }, at), ...typed }, at);
    expect(result.ok ? '' : result.fault).toContain(words);
  });
  it.each<Basis>([
    { kind: 'sameMonths', year: 2026, changePercent: '0', changeAmount: minor(-25_050) },
    { kind: 'typedTotal', total: minor(1_200_000), spread: { by: 'shares', years: [2026, 2027] } },
  ])('%o is read back as it was, and taken by the contract', (basis) => {
    expect(basisOf(draftOf(basis, at), at)).toEqual({ ok: true, basis });
    expect(basisSchema.parse(basis)).toEqual(basis);
  });
  it('keeps the fields of another kind', () => {
    const draft = { ...draftOf(some.sameMonths, at), kind: 'typed' as const };
    expect(basisOf({ ...draft, kind: 'sameMonths' }, at)).toEqual({ ok: true, basis: some.sameMonths });
  });
});
