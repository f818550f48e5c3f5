import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { monthCalendar, type Slot, slotCount } from '../calendar/fiscal-calendar.ts';
import { isIncomeAccount } from '../chart/account.ts';
import { account } from '../chart/small-account.ts';
import { minor } from '../money/minor.ts';
import { BalanceCube, type BalanceFact, joinSlabs } from './balance-cube.ts';
import { bothFilters, filterKey, passes } from './dimension.ts';

const accounts = [account('1', 'cash'), account('2', 'retainedEarnings'), account('3', 'revenue'), account('4', 'operatingExpenses')];
const isIncome = accounts.map(isIncomeAccount);
const calendar = monthCalendar({ startMonth: 1, firstYear: 2024, lastYear: 2026, hasAdjustmentPeriod: true });
const slots = slotCount(calendar);
const DEPARTMENTS = ['', 'A', 'B'];

const anyFact = fc.record({
  account: fc.integer({ min: 0, max: 3 }),
  slot: fc.integer({ min: 0, max: slots - 1 }).map((slot) => slot as Slot),
  combination: fc.constantFrom(...DEPARTMENTS).map((department) => (department === '' ? {} : { department })),
  layer: fc.constantFrom('ordinary' as const, 'closing' as const),
  amount: fc.integer({ min: -1e9, max: 1e9 }).map((value) => minor(value)),
});
/** The plain reference: adds up the facts themselves, closing entries of income accounts left out. */
const directSum = (
  facts: readonly BalanceFact[],
  which: { account: number; from: number; to: number; departments?: readonly string[] },
): number =>
  facts
    .filter((fact) => fact.account === which.account && fact.slot >= which.from && fact.slot <= which.to)
    .filter((fact) => !(isIncome[fact.account] && fact.layer === 'closing'))
    .filter((fact) => which.departments === undefined || which.departments.includes(fact.combination.department ?? ''))
    .reduce((sum, fact) => sum + fact.amount, 0);

describe('the balance cube', () => {
  it('equals a direct sum over the facts, for any account, span and filter, whether loaded at once or posted after', () =>
    fc.assert(
      fc.property(
        fc.array(anyFact, { maxLength: 40 }),
        fc.array(anyFact, { maxLength: 10 }),
        fc.integer({ min: 0, max: slots - 1 }),
        fc.integer({ min: 0, max: slots - 1 }),
        fc.subarray(DEPARTMENTS),
        (first, later, a, b, departments) => {
          const cube = new BalanceCube({ isIncome, slots });
          cube.post(first);
          const filter = { department: departments };
          cube.slab(filter);
          cube.slab({});
          cube.post(later);
          const facts = [...first, ...later];
          const [from, to] = [Math.min(a, b), Math.max(a, b)];
          accounts.forEach((_, index) => {
            expect(cube.slab({}).change(index, from, to)).toBe(directSum(facts, { account: index, from, to }));
            expect(cube.slab(filter).change(index, from, to)).toBe(directSum(facts, { account: index, from, to, departments }));
            expect(cube.slab(filter).closing(index, to)).toBe(directSum(facts, { account: index, from: 0, to, departments }));
          });
        },
      ),
    ));
  it('slices add up to the whole', () =>
    fc.assert(
      fc.property(fc.array(anyFact, { maxLength: 60 }), fc.integer({ min: 0, max: slots - 1 }), (facts, slot) => {
        const cube = new BalanceCube({ isIncome, slots });
        cube.post(facts);
        accounts.forEach((_, index) => {
          const parts = DEPARTMENTS.map((department) => cube.slab({ department: [department] }).closing(index, slot));
          expect(parts.reduce<number>((sum, part) => sum + part, 0)).toBe(cube.slab({}).closing(index, slot));
        });
      }),
    ));
  it('refuses a fact outside its accounts and slots', () => {
    const cube = new BalanceCube({ isIncome, slots });
    expect(() => cube.post([{ account: 9, slot: 0 as Slot, combination: {}, layer: 'ordinary', amount: minor(1) }])).toThrow(
      'outside the cube',
    );
    expect(() => cube.post([{ account: 0, slot: slots as Slot, combination: {}, layer: 'ordinary', amount: minor(1) }])).toThrow(
      RangeError,
    );
  });
  it('keeps every slab right past the number it holds', () => {
    const cube = new BalanceCube({ isIncome, slots });
    cube.post([{ account: 0, slot: 0 as Slot, combination: { department: 'A' }, layer: 'ordinary', amount: minor(5) }]);
    for (let count = 0; count < 300; count += 1) cube.slab({ department: ['A', String(count)] });
    cube.post([{ account: 0, slot: 1 as Slot, combination: { department: 'A' }, layer: 'ordinary', amount: minor(7) }]);
    expect([0, 150, 299].map((count) => cube.slab({ department: ['A', String(count)] }).closing(0, 2))).toEqual([12, 12, 12]);
  });
  it('joins actuals to date with what follows', () => {
    const [actual, budget] = [new BalanceCube({ isIncome, slots }), new BalanceCube({ isIncome, slots })];
    const at = (slot: number, amount: number): BalanceFact => ({
      account: 2,
      slot: slot as Slot,
      combination: {},
      layer: 'ordinary',
      amount: minor(amount),
    });
    actual.post([at(0, 10), at(1, 20), at(3, 99)]);
    budget.post([at(0, 1), at(2, 3), at(3, 4)]);
    const joined = joinSlabs(actual.slab({}), budget.slab({}), { accounts: 4, slots, lastSlot: 1 });
    expect([0, 1, 2, 3].map((slot) => joined.change(2, slot, slot))).toEqual([10, 20, 3, 4]);
  });
});

describe('filters', () => {
  it('must all pass, and none is a value', () => {
    expect(passes({ department: ['A'] }, { department: 'A', location: 'X' })).toBe(true);
    expect(passes({ department: ['A'], location: ['Y'] }, { department: 'A', location: 'X' })).toBe(false);
    expect(passes({ department: [''] }, {})).toBe(true);
    expect(bothFilters({ department: ['A', 'B'] }, { department: ['B', 'C'], location: ['X'] })).toEqual({
      department: ['B'],
      location: ['X'],
    });
    expect(filterKey({ b: ['2', '1'], a: ['x'] })).toBe(filterKey({ a: ['x'], b: ['1', '2'] }));
  });
});
