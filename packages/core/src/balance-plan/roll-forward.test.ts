import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { lastSlot, type PeriodIndex } from '../calendar/fiscal-calendar.ts';
import { NO_FILTER } from '../ledger/dimension.ts';
import { minor } from '../money/minor.ts';
import { loanSchedule } from './loan-schedule.ts';
import { type RolledForward, rollForward } from './roll-forward.ts';
import { booksOf, calendar, chart, type Entry, factsOf, incomeCube, type Planned, positionOf, rulesOf } from './small-balance.ts';

const MONTHS = Array.from({ length: 12 }, (_, index) => index + 1);
const balance = (rolled: RolledForward, account: string, year: number, month: number): number =>
  rolled.cube.slab(NO_FILTER).closing(positionOf(account), lastSlot(calendar, ((year - 2025) * 12 + month - 1) as PeriodIndex));
/** Debits and credits of a month add up to zero. */
function expectBalanced(rolled: RolledForward): void {
  const slab = rolled.cube.slab(NO_FILTER);
  for (let period = 0; period < rolled.first + 12; period += 1) {
    const slot = lastSlot(calendar, period as PeriodIndex);
    expect(
      chart.accounts.reduce((sum, _, position) => sum + slab.closing(position, slot), 0),
      `period ${period}`,
    ).toBe(0);
  }
}
const everyMonth = (years: readonly number[], entry: (year: number, month: number) => Entry[]): Entry[] =>
  years.flatMap((year) => MONTHS.flatMap((month) => entry(year, month)));
const started: Entry[] = [
  ['1000', '3000', 2025, 1, 50_000_00],
  ['1500', '2500', 2025, 1, 20_000_00],
];
const budget: Planned[] = MONTHS.flatMap((month): Planned[] => [
  ['4000', 2027, month, -10_000_00],
  ['6000', 2027, month, 4_000_00],
]);

describe('a budget carried into the balance sheet', () => {
  it('takes income in cash where nothing else is assumed, and says where the lowest point lies', () => {
    const books = booksOf({ entries: started });
    const rolled = rollForward(books, { year: 2027, income: incomeCube(budget), rules: new Map() });
    expectBalanced(rolled);
    expect(rolled.opensFrom).toBe(23);
    expect(rolled.cash.opening).toBe(50_000_00);
    expect(rolled.cash.months).toEqual(MONTHS.map((month) => 50_000_00 + month * 6_000_00));
    expect(rolled.issues).toEqual([]);
  });

  it('keeps days of receivables: a month of revenue stays unpaid', () => {
    const books = booksOf({ entries: started });
    const rolled = rollForward(books, {
      year: 2027,
      income: incomeCube(budget),
      rules: rulesOf({ '1100': { kind: 'daysOf', of: 'revenue', days: MONTHS.map(() => '30') } }),
    });
    expectBalanced(rolled);
    // April has 30 days, May 31
    expect(balance(rolled, '1100', 2027, 1)).toBe(10_000_00);
    expect(balance(rolled, '1100', 2027, 2)).toBe(Math.round((10_000_00 * 30) / 31));
    expect(rolled.cash.months[0]).toBe(50_000_00 - 4_000_00);
  });

  it('follows last year in days, in level and in movement', () => {
    const entries = [
      ...started,
      ...everyMonth([2025, 2026], (year, month) => [
        ['1100', '4000', year, month, 8_000_00],
        ...(month > 1 || year > 2025 ? [['1000', '1100', year, month, 8_000_00] as const] : []),
      ]),
      ['1400', '1000', 2026, 3, 1_200_00] as const,
      ['1000', '1400', 2026, 9, 700_00] as const,
      ['3300', '1000', 2026, 6, 5_000_00] as const,
    ];
    const rolled = rollForward(booksOf({ entries }), { year: 2027, income: incomeCube(budget), rules: new Map() });
    expectBalanced(rolled);
    // what was owed in each month was that month's revenue: so it is at the budget's higher revenue
    expect(balance(rolled, '1100', 2027, 5)).toBe(10_000_00);
    expect(MONTHS.map((month) => balance(rolled, '1400', 2027, month))).toEqual(
      MONTHS.map((month) => (month < 3 ? 0 : month < 9 ? 1_200_00 : 500_00)),
    );
    expect([5, 6].map((month) => balance(rolled, '3300', 2027, month))).toEqual([5_000_00, 10_000_00]);
    expect(rolled.rules.get('1100')).toEqual({
      rule: { kind: 'daysOf', of: 'revenue', days: 'history' },
      fromHistory: { kind: 'daysOf', of: 'revenue', days: 'history' },
      isSet: false,
    });
  });

  it('finds the schedule a loan is paid by and goes on with it', () => {
    const schedule = loanSchedule(minor(20_000_00), { form: 'level', ratePercent: '6', payments: 48 });
    const entries = [
      ...started,
      ...everyMonth([2025, 2026], (year, month) => {
        const at = (year - 2025) * 12 + month - 2;
        return at < 0
          ? []
          : [
              ['2500', '1000', year, month, schedule[at]!.principal],
              ['7510', '1000', year, month, schedule[at]!.interest],
            ];
      }),
    ];
    const rolled = rollForward(booksOf({ entries }), { year: 2027, income: incomeCube(budget), rules: new Map() });
    expectBalanced(rolled);
    expect(rolled.rules.get('2500')!.rule).toEqual({ kind: 'loan', form: 'level', ratePercent: '6', payments: 25 });
    for (const month of MONTHS)
      expect(Math.abs(-balance(rolled, '2500', 2027, month) - schedule[22 + month]!.balance), `month ${month}`).toBeLessThanOrEqual(3);
    // the budget holds no interest, which is reported
    const scheduled = rolled.loans[0]!.months.reduce((sum, { of }) => sum + of.interest, 0);
    expect(rolled.issues).toEqual([{ code: 'interestDiffers', scheduled, budgeted: 0, unscheduled: [] }]);
  });

  it('takes level parts of a principal at the rate that debt bore', () => {
    const entries = [
      ...started,
      ...everyMonth([2026], (year, month) => [
        ['2500', '1000', year, month, 500_00],
        ['7510', '1000', year, month, Math.round((20_000_00 - (month - 1) * 500_00) * 0.005)],
      ]),
    ];
    const rolled = rollForward(booksOf({ entries }), { year: 2027, income: incomeCube(budget), rules: new Map() });
    expect(rolled.rules.get('2500')!.rule).toEqual({ kind: 'loan', form: 'straight', ratePercent: '6', payments: 28 });
    expect(MONTHS.map((month) => 0 - balance(rolled, '2500', 2027, month))).toEqual(MONTHS.map((month) => 14_000_00 - month * 500_00));
    expect(rolled.loans[0]!.months[0]!.of.interest).toBe(70_00);
  });

  it('counts a loan’s payments from the month they were set, whatever is posted since', () => {
    const rule = { kind: 'loan', form: 'straight', ratePercent: '6', payments: 20, countedFrom: '2026-12' } as const;
    const at = (through: number) =>
      rollForward(booksOf({ entries: started, through }), { year: 2027, income: incomeCube(budget), rules: rulesOf({ '2500': rule }) });
    // December 2025 and March 2026 are the ninth and twelfth months of FY2026; 2026-12 is the ninth of FY2027
    expect(at(23).rules.get('2500')!.rule).toMatchObject({ payments: 29, countedFrom: '2026-03' });
    expect(at(20).rules.get('2500')!.rule).toMatchObject({ payments: 32, countedFrom: '2025-12' });
    const { countedFrom: _, ...plain } = rule;
    expect(at(23).rules.get('2500')!.fromHistory).toEqual({ kind: 'stays' });
    const uncounted = rollForward(booksOf({ entries: started }), {
      year: 2027,
      income: incomeCube(budget),
      rules: rulesOf({ '2500': plain }),
    });
    expect(uncounted.rules.get('2500')!.rule).toEqual(plain);
    expect(0 - balance(uncounted, '2500', 2027, 1)).toBe(19_000_00);
  });

  it('draws a loan, buys, depreciates, and pays tax in its months', () => {
    const income: Planned[] = [
      ...budget,
      ...MONTHS.map((month): Planned => ['6800', 2027, month, 300_00]),
      ...MONTHS.map((month): Planned => ['8010', 2027, month, 1_000_00]),
    ];
    const rolled = rollForward(booksOf({ entries: started }), {
      year: 2027,
      income: incomeCube(income),
      rules: rulesOf({
        '2300': { kind: 'loan', form: 'straight', ratePercent: '12', payments: 4, drawn: { month: 1, amount: minor(8_000_00) } },
        '1500': { kind: 'purchases', items: [{ name: 'Kayak mold', month: 2, amount: minor(9_000_00) }] },
        '2130': { kind: 'tax', paidIn: [2, 11] },
      }),
    });
    expectBalanced(rolled);
    expect([1, 2, 3, 6, 7].map((month) => 0 - balance(rolled, '2300', 2027, month))).toEqual([0, 8_000_00, 6_000_00, 0, 0]);
    expect([2, 3].map((month) => balance(rolled, '1500', 2027, month))).toEqual([20_000_00, 29_000_00]);
    expect(balance(rolled, '1590', 2027, 12)).toBe(-3_600_00);
    expect([1, 2, 3, 4, 11, 12].map((month) => 0 - balance(rolled, '2130', 2027, month))).toEqual([
      1_000_00, 2_000_00, 0, 1_000_00, 8_000_00, 0,
    ]);
    // month 3: 10,000 in, 4,000 out, three months of tax, the mold, and a payment on the loan
    expect(rolled.cash.months[2]! - rolled.cash.months[1]!).toBe(10_000_00 - 4_000_00 - 3_000_00 - 9_000_00 - 2_000_00);
  });

  it('says what stands in for months without a budget, and what is not there', () => {
    const entries = [...started, ...everyMonth([2025], (year, month) => [['1000', '4000', year, month, month * 100_00]])];
    const rolled = rollForward(booksOf({ entries, through: 11 }), {
      year: 2027,
      income: incomeCube(budget),
      rules: rulesOf({ '1300': { kind: 'daysOf', of: 'costOfSales', days: MONTHS.map(() => '30') } }),
    });
    expectBalanced(rolled);
    expect(rolled.opensFrom).toBe(11);
    // FY2026 has no approved budget: it earns what FY2025 did
    expect(rolled.cash.opening).toBe(50_000_00 + 2 * 78 * 100_00);
    expect(rolled.issues).toEqual([
      { code: 'noApprovedBudget', from: 12, to: 23 },
      { code: 'nothingToFollow', account: '1300', months: 24 },
    ]);
    const approved = new Map([[2026, incomeCube([['4000', 2026, 1, -500_00]])]]);
    const bridged = rollForward(booksOf({ entries, through: 11, approved }), { year: 2027, income: incomeCube(budget), rules: new Map() });
    expect(bridged.cash.opening).toBe(50_000_00 + 78 * 100_00 + 500_00);
    expect(bridged.issues).toEqual([]);
  });

  it('opens from nothing where nothing is posted', () => {
    const rolled = rollForward(booksOf({ through: null }), {
      year: 2025,
      income: incomeCube([['4000', 2025, 3, -900_00]]),
      rules: new Map(),
    });
    expectBalanced(rolled);
    expect(rolled.opensFrom).toBeNull();
    expect(rolled.cash).toEqual({ opening: 0, months: MONTHS.map((month) => (month < 3 ? 0 : 900_00)) });
  });

  it('takes the posted months of its year from the ledger where the budget holds them to the cent', () => {
    const entries: Entry[] = [...started, ['1100', '4000', 2027, 1, 10_000_00], ['6000', '2000', 2027, 1, 4_000_00]];
    const books = booksOf({ entries, through: 24 });
    const asPosted = rollForward(books, { year: 2027, income: incomeCube(budget), rules: new Map() });
    expect(asPosted.opensFrom).toBe(24);
    expectBalanced(asPosted);
    expect(asPosted.cash.opening).toBe(50_000_00);
    expect(asPosted.cash.months.slice(0, 2)).toEqual([50_000_00, balance(asPosted, '1000', 2027, 2)]);
    expect(balance(asPosted, '1100', 2027, 1)).toBe(10_000_00);
    const otherwise = rollForward(books, { year: 2027, income: incomeCube([...budget, ['6000', 2027, 1, 1]]), rules: new Map() });
    expect(otherwise.opensFrom).toBe(23);
    expect(balance(otherwise, '1100', 2027, 1)).toBe(0);
  });

  it('gives the rest to the account of cash that is asked for', () => {
    const rolled = rollForward(booksOf({ entries: started }), {
      year: 2027,
      income: incomeCube(budget),
      rules: rulesOf({ '1010': { kind: 'rest' } }),
    });
    expect(balance(rolled, '1000', 2027, 12)).toBe(50_000_00);
    expect(balance(rolled, '1010', 2027, 12)).toBe(72_000_00);
  });

  it('balances every month for any ledger and any budget', () => {
    const number = fc.constantFrom(...chart.accounts.map((account) => account.number));
    const entry = fc
      .tuple(number, number, fc.constantFrom(2025, 2026), fc.integer({ min: 1, max: 12 }), fc.integer({ min: 1, max: 1e8 }))
      .filter(([to, from]) => to !== from);
    const planned = fc.tuple(
      fc.constantFrom('4000', '5000', '6000', '6800', '7510', '8010'),
      fc.constant(2027),
      fc.integer({ min: 1, max: 12 }),
      fc.integer({ min: -1e8, max: 1e8 }),
    );
    const share = fc.integer({ min: -300, max: 300 }).map((percent) => String(percent / 10));
    const rule = fc.oneof(
      fc.record({
        kind: fc.constant('daysOf' as const),
        of: fc.constantFrom('revenue', 'costOfSales', 'costs'),
        days: fc.array(share, { minLength: 12, maxLength: 12 }),
      }),
      fc.record({ kind: fc.constantFrom('levelOfLastYear', 'movementOfLastYear'), change: share }),
      fc.record({
        kind: fc.constant('movements' as const),
        months: fc.array(fc.integer({ min: -1e8, max: 1e8 }).map(minor), { minLength: 12, maxLength: 12 }),
      }),
      fc.record({
        kind: fc.constant('loan' as const),
        form: fc.constantFrom('level', 'straight', 'atEnd'),
        ratePercent: fc.constant('7.25'),
        payments: fc.integer({ min: 1, max: 60 }),
      }),
      fc.record({ kind: fc.constant('tax' as const), paidIn: fc.uniqueArray(fc.integer({ min: 0, max: 11 })) }),
      fc.constant({ kind: 'depreciation' as const }),
      fc.constant({ kind: 'stays' as const }),
    );
    const settable = fc.constantFrom('1100', '1300', '1400', '1500', '1590', '2000', '2130', '2300', '2500', '3000', '3300');
    fc.assert(
      fc.property(
        fc.array(entry, { maxLength: 60 }),
        fc.array(planned, { maxLength: 60 }),
        fc.array(fc.tuple(settable, rule), { maxLength: 8 }),
        fc.integer({ min: 0, max: 23 }),
        (entries, income, rules, through) => {
          const known = entries.filter(([, , year, month]) => (year - 2025) * 12 + month - 1 <= through);
          const rolled = rollForward(booksOf({ entries: known, through }), {
            year: 2027,
            income: incomeCube(income),
            rules: new Map(rules),
          });
          expectBalanced(rolled);
          // the ledger's part is the ledger's
          const posted = rolled.cube.facts.filter(({ slot }) => slot <= lastSlot(calendar, through as PeriodIndex));
          expect(posted).toEqual(factsOf(known));
        },
      ),
      { seed: 11, numRuns: 60 },
    );
  });
});
