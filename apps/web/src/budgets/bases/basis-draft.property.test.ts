import { basisSchema } from '@wise-margin/contract';
import { type Basis, BASIS_KINDS, type BasisKind, basisWords, minor, type Spread, SPREAD_KINDS } from '@wise-margin/core';
import fc, { type Arbitrary } from 'fast-check';
import { describe, expect, it } from 'vitest';

import { basisOf, draftOf } from './basis-draft.ts';

// Any basis there can be, of amounts and percentages as people type them.

const BUDGET_YEAR = 2028;
const month = fc.integer({ min: 0, max: 11 });
const amount = fc.integer({ min: -1e12, max: 1e12 }).map((value) => minor(value));
const positive = fc.integer({ min: 0, max: 1e12 }).map((value) => minor(value));
const decimal = fc
  .tuple(fc.constantFrom('', '-'), fc.integer({ min: 1, max: 9999 }), fc.constantFrom('', '.5', '.25', '.125'))
  .map(([sign, whole, part]) => `${sign}${whole}${part}`);
const year = fc.integer({ min: 2020, max: 2027 });
/** The last years before the budget's, the oldest first. */
const yearsBefore = fc.integer({ min: 1, max: 10 }).map((many) => Array.from({ length: many }, (_, back) => BUDGET_YEAR - many + back));
const text = fc.constantFrom('4010', '4000-4199', '4000-4199, 4300');
const name = fc.constantFrom('Guide', 'Clerk of the store', 'Controller');
const twelve = fc.array(fc.integer({ min: 0, max: 1e6 }), { minLength: 12, maxLength: 12 });
const steps = <Value>(value: Arbitrary<Value>) => fc.array(fc.record({ from: month, value }), { minLength: 1, maxLength: 4 });
const spread: Arbitrary<Spread> = fc.oneof(
  fc.constantFrom(...SPREAD_KINDS),
  yearsBefore.map((years) => ({ by: 'shares' as const, years })),
  text.map((accounts) => ({ by: 'line' as const, accounts })),
  twelve.map((weights) => ({ by: 'weights' as const, weights })),
);
const position = fc.record(
  {
    name,
    heads: fc.constantFrom(0, 0.5, 1, 12),
    yearlyPay: positive,
    startMonth: month,
  },
  { requiredKeys: ['name', 'heads', 'yearlyPay', 'startMonth'] },
);
const raised = fc
  .tuple(position, fc.option(fc.record({ raiseMonth: month, raisePercent: decimal }), { nil: undefined }))
  .map(([plain, raise]) => ({ ...plain, ...raise }));
const limits = fc.record(
  {
    fromMonth: fc.integer({ min: 1, max: 11 }),
    roundTo: fc.constantFrom(minor(100), minor(1000), minor(10_000)),
    least: amount,
    most: amount,
    projected: fc.constant(true as const),
    includeNonrecurring: fc.constant(true as const),
  },
  { requiredKeys: [] },
);
const METHODS: { readonly [Kind in BasisKind]: Arbitrary<object> } = {
  sameMonths: fc.record({ year, changePercent: decimal, changeAmount: amount }, { requiredKeys: ['year', 'changePercent'] }),
  yearTotal: fc.record({ year, changePercent: decimal, spread }),
  averageYears: fc.record({ years: yearsBefore, changePercent: decimal }),
  latestMonths: fc.record({ count: fc.integer({ min: 1, max: 60 }), changePercent: decimal }),
  trend: fc.record({ of: fc.constantFrom('months', 'years'), years: yearsBefore, seasonal: fc.boolean() }),
  percentOf: fc.record(
    { accounts: text, percent: decimal, wholeCompany: fc.constant(true as const) },
    { requiredKeys: ['accounts', 'percent'] },
  ),
  driverRate: fc.record({
    driver: fc.oneof(
      fc.record({ series: fc.constantFrom('guests', 'hire_days') }),
      fc.record({ name: fc.constantFrom('Guests', 'Boats built'), months: twelve }),
    ),
    rates: steps(decimal),
    unit: fc.constant(100),
  }),
  fixedMonths: fc.record(
    { steps: steps(amount), months: fc.uniqueArray(month, { minLength: 1, maxLength: 12 }) },
    { requiredKeys: ['steps'] },
  ),
  payroll: fc.record(
    {
      currentStaff: fc.record({ year, changePercent: decimal }),
      positions: fc.array(raised, { minLength: 1, maxLength: 5 }),
      onCostPercent: decimal,
    },
    { requiredKeys: ['positions', 'onCostPercent'] },
  ),
  typedTotal: fc.record({ total: amount, spread }),
  typed: fc.constant({}),
};

describe('any basis', () => {
  it.each(BASIS_KINDS)('%s goes through its sentence and the contract unchanged, and has words', (kind) =>
    fc.assert(
      fc.property(METHODS[kind], limits, (method, common) => {
        const basis = { kind, ...method, ...common } as Basis;
        const at = { exponent: 2, budgetYear: BUDGET_YEAR };
        expect(basisOf(draftOf(basis, at), at)).toEqual({ ok: true, basis });
        expect(basisSchema.parse(JSON.parse(JSON.stringify(basis)))).toEqual(basis);
        expect(basisWords(basis, (value) => String(value))).toMatch(/\S/);
        expect(basisWords(basis, (value) => String(value))).not.toMatch(/undefined|NaN|Infinity/);
      }),
      { numRuns: 60 },
    ),
  );
});
