import { BalanceCube, type BalanceFact, isIncomeAccount, type Minor, monthCalendar, type Slot, slotCount } from '@wise-margin/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { account } from '../../../core/src/chart/small-account.ts';
import { cubeOfFacts, packFacts, packLine, unpackLine } from './worksheet-books.ts';

const chart = { accounts: [account('1000', 'cash'), account('4000', 'revenue'), account('6000', 'operatingExpenses')] };
const calendar = monthCalendar({ startMonth: 4, firstYear: 2026, lastYear: 2027 });
const anyFact = fc.record({
  account: fc.nat(2),
  slot: fc.nat(slotCount(calendar) - 1).map((slot) => slot as Slot),
  combination: fc.record({ department: fc.constantFrom('North', 'South', ''), project: fc.constantFrom('Hull', '') }),
  layer: fc.constantFrom('ordinary' as const, 'closing' as const),
  amount: fc.integer({ min: -1e9, max: 1e9 }).map((amount) => amount as Minor),
});

describe('facts for the wire', () => {
  it('give the same sums there, of income accounts and by the dimensions that stay apart', () =>
    fc.assert(
      fc.property(fc.array(anyFact, { maxLength: 40 }), (facts: BalanceFact[]) => {
        const packed = packFacts(chart, facts, ['department']);
        const there = cubeOfFacts({ chart, calendar }, JSON.parse(JSON.stringify(packed)) as typeof packed);
        const here = new BalanceCube({ isIncome: chart.accounts.map(isIncomeAccount), slots: slotCount(calendar) });
        here.post(facts);
        for (const filter of [{}, { department: ['North'] }, { department: [''] }, { department: ['South', ''] }])
          for (const position of [1, 2])
            for (let slot = 0; slot < slotCount(calendar); slot += 1)
              expect(there.slab(filter).closing(position, slot)).toBe(here.slab(filter).closing(position, slot));
        expect(packed.account.every((position) => position !== 0)).toBe(true);
        expect(packed.amount.every((amount) => amount !== 0)).toBe(true);
      }),
      { numRuns: 50 },
    ));
  it('add up over what does not stay apart', () => {
    const at = { account: 1, slot: 0 as Slot, layer: 'ordinary' as const };
    const facts: BalanceFact[] = [
      { ...at, combination: { department: 'North', project: 'Hull' }, amount: 5 as Minor },
      { ...at, combination: { department: 'North' }, amount: 7 as Minor },
    ];
    expect(packFacts(chart, facts, ['department'])).toEqual({
      combinations: [{ department: 'North' }],
      account: [1],
      slot: [0],
      combination: [0],
      amount: [12],
    });
  });
});

it('a line comes back as it was', () => {
  const line = {
    id: 4,
    account: '6000',
    position: 2,
    dimensions: { department: 'North' },
    slice: '[["department","North"]]',
    basis: { kind: 'typed' } as const,
    months: Array.from({ length: 12 }, (_, month) => ({ amount: (month * 100) as Minor, held: month % 5 === 0 })),
  };
  const sent = JSON.parse(JSON.stringify(packLine(line))) as ReturnType<typeof packLine>;
  expect(unpackLine(sent, new Map(chart.accounts.map(({ number }, position) => [number, position])))).toEqual(line);
});
