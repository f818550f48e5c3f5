import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { LineTable, type TableLine } from '../ledger/line-table.ts';
import type { Minor } from '../money/minor.ts';
import type { Unexplained } from './bills-in-view.ts';
import { fewestExplaining, partsOf } from './difference-parts.ts';
import { billCauses, rankCauses } from './find-causes.ts';
import { timingCauses } from './timing.ts';

type Bill = {
  readonly month: number;
  readonly day?: number;
  readonly amount: number;
  readonly party?: number;
  readonly account?: number;
  readonly document?: string;
};
const [EXPENSE, OTHER_EXPENSE, MONTHS] = [1, 2, 24];
const lineOf = ({ month, day = 10, amount, party = 0, account = EXPENSE, document = '' }: Bill, at: number): TableLine => ({
  line: at + 1,
  entry: at + 1,
  day: 19_000 + month * 30 + day,
  slot: month,
  account,
  amount: amount as Minor,
  combination: 0,
  party,
  source: 0,
  isDraft: false,
  isClosing: false,
  isManual: false,
  text: `E-${at + 1}\t${document}\tBill\t`,
});
/** Causes of a variance of the expense account in some months; bills on other accounts are known, and in no line. */
function causesOf(bills: readonly Bill[], { from = 23, to = 23, variance = 1000 }: { from?: number; to?: number; variance?: number } = {}) {
  const table = LineTable.of(bills.map(lineOf));
  const positions = Int32Array.from(Array.from({ length: table.count }, (_, at) => at).filter((at) => table.account[at] === EXPENSE));
  const unexplained: Unexplained = {
    variance: variance as Minor,
    slots: { from, to },
    lines: { positions, amounts: Float64Array.from(positions, (position) => table.amount[position]!) },
    slotsInYear: 12,
    isMonth: () => true,
    isIncome: () => true,
  };
  const further = { party: 'party', source: 'source', parties: ['A', 'B', 'C'], sources: [''] };
  return rankCauses(billCauses({ table, combinations: new Map([[0, {}]]), further }, unexplained), variance);
}
const monthly = (of: Partial<Bill> = {}, months = MONTHS): Bill[] =>
  Array.from({ length: months }, (_, month) => ({ month, amount: 2000 + (month % 5) * 10, document: `M-${1000 + month}`, ...of }));

describe('causes in the bills of a difference', () => {
  it.each<[string, readonly Bill[], number, string, number]>([
    ['a bill posted again', [...monthly(), { month: 23, day: 20, amount: 2030, document: 'M-1023A' }], 2030, 'repeatedBill', 2030],
    ['a digit too many', [...monthly(), { month: 23, day: 20, amount: 20_300, document: 'Q' }], 18_290, 'unusualAmount', 18_280],
    [
      'a vendor on an account where it never was',
      [...monthly(), ...monthly({ party: 1, account: OTHER_EXPENSE }, 20), { month: 23, amount: 5000, party: 1 }],
      5000,
      'unfamiliarAccount',
      5000,
    ],
    ['a new vendor', [...monthly(), { month: 23, amount: 5000, party: 1 }], 5000, 'newParty', 5000],
    ['a monthly bill that did not come', monthly({}, 23), -2015, 'missingBill', -2015],
    ['a changed price', monthly().map((bill) => ({ ...bill, amount: bill.month === 23 ? 2300 : 2000 })), 300, 'changedPrice', 300],
  ])('%s', (_, bills, variance, kind, amount) => {
    const [first] = causesOf(bills, { variance });
    expect([first!.kind, first!.amount]).toEqual([kind, amount]);
    expect(first!.share).toBeGreaterThan(0.9);
  });
  it('a customer that stopped, by what it had in the same months a year before', () => {
    const orders = Array.from({ length: 16 }, (_, month) => ({ month, amount: -4000, party: 2 }));
    const [first] = causesOf([...monthly(), ...orders], { from: 16, to: 23, variance: 32_000 });
    // from month 4 on a year before; its last order was in month 15
    expect([first!.kind, first!.amount, first!.share]).toEqual(['stoppedParty', 32_000, 1]);
  });
  it('leave out what goes against the difference, and what makes hardly any of it', () => {
    const again = [...monthly(), { month: 23, day: 20, amount: 2030, document: 'M-1023A' }];
    expect(causesOf(again, { variance: -2030 }).map(({ kind }) => kind)).not.toContain('repeatedBill');
    expect(causesOf(again, { variance: 900_000 })).toEqual([]);
  });
  it('are none in a year like the one before', () => expect(causesOf(monthly(), { variance: 40 })).toEqual([]));
});

describe('timing', () => {
  const none = (): null => null;
  const months = (variances: readonly number[]) => variances.map((variance, month) => ({ month, variance }));
  it('is a month that its neighbor takes back', () =>
    expect(timingCauses(months([10, -12, 9, -5000, 4800, 11]), { from: 4, to: 4 }, none)).toEqual([
      { kind: 'timing', month: 4, neighbor: 3, there: -5000, line: null, amount: 4800 },
    ]));
  it('is not one month of a year that goes up and down', () =>
    expect(timingCauses(months([900, -1000, 950, -1000, 1000, -900]), { from: 4, to: 4 }, none)).toEqual([]));
  it('unless a text names the other month', () =>
    expect(
      timingCauses(months([900, -1000, 950, -1000, 1000, -900]), { from: 4, to: 4 }, (posted) => (posted === 4 ? 77 : null)),
    ).toHaveLength(1));
  it('is not within the months that are explained together', () =>
    expect(timingCauses(months([10, -12, 9, -5000, 4800, 11]), { from: 3, to: 4 }, none)).toEqual([]));
});

describe('parts', () => {
  const sides = fc.dictionary(fc.constantFrom('a', 'b', 'c', 'd', 'e', 'f'), fc.integer({ min: -1e6, max: 1e6 }));
  it('add up to the difference, the largest first, and those shown are the fewest that make four fifths of all sizes', () =>
    fc.assert(
      fc.property(sides, sides, (now, before) => {
        const { parts, shown, total } = partsOf(new Map(Object.entries(now)), new Map(Object.entries(before)));
        const sum = (of: readonly { amount: number }[]) => of.reduce((all, { amount }) => all + amount, 0);
        const wanted = Object.values(now).reduce((all, each) => all + each, 0) - Object.values(before).reduce((all, each) => all + each, 0);
        expect(sum(parts)).toBe(total);
        expect(total === wanted || (total === 0 && wanted === 0)).toBe(true);
        const sizes = parts.map(({ amount }) => Math.abs(amount));
        expect(sizes).toEqual([...sizes].sort((a, b) => b - a));
        const all = sizes.reduce((together, each) => together + each, 0);
        const reached = (count: number) => sizes.slice(0, count).reduce((together, each) => together + each, 0);
        expect(reached(shown)).toBeGreaterThanOrEqual(0.8 * all);
        if (shown > 0) expect(reached(shown - 1)).toBeLessThan(0.8 * all);
      }),
    ));
  it('keeps the part that offsets the others', () => {
    const now = new Map([
      ['a', -50_826],
      ['b', -43_599],
      ['c', -36_335],
      ['d', 62_684],
    ]);
    expect(partsOf(now, new Map()).parts.map(({ key }) => key)).toEqual(['d', 'a', 'b', 'c']);
  });
  it.each([
    [[90, 5, 5], 1],
    [[50, 40, 10], 2],
    [[-70, -40, 10], 2],
    [[100, -100], 2],
    [[], 0],
    [[0, 0], 0],
  ] as const)('of %j: %d', (amounts, count) => expect(fewestExplaining(amounts.map((amount) => ({ amount })))).toBe(count));
});
