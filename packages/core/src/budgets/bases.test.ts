import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { type Minor, minor } from '../money/minor.ts';
import { MONTHS } from './bases/basis-context.ts';
import { basisContext } from './bases/empty-context.ts';
import { BASES, type Basis, basisWords, deriveMonths, deriveYear } from './basis.ts';
import type { BudgetLine } from './budget-line.ts';
import { editBudget } from './edit.ts';

const year = (start: number, step = 100) => Array.from({ length: 12 }, (_, month) => minor(start + month * step));
const NONE = Array.from({ length: 12 }, () => null);
const years = new Map([
  [2024, year(1000)],
  [2025, year(2000)],
  [2026, [...year(3000).slice(0, 6), ...NONE.slice(6)]],
]);
const context = basisContext({
  history: year(2000),
  days: Array.from({ length: 12 }, () => 30),
  year: (which) => years.get(which) ?? NONE,
  latest: (count) => [500, 600, 700].slice(-count).map(minor),
  driver: (series) => (series === 'guests' ? [10, 20.5, null, ...Array.from({ length: 9 }, () => 0)] : NONE),
  lines: (accounts) => (accounts === '4000' ? year(10_000, 0) : null),
});
const derived = (basis: Basis) => deriveYear(basis, context);
const money = (amount: number) => (amount / 100).toFixed(2);

describe('amounts are exact until the one rounding', () => {
  const exact = (months: readonly number[], more: object = {}) =>
    basisContext({ year: () => months.map(minor), latest: () => months.map(minor), ...more });
  it('in the mean of the latest months with a percentage', () => {
    // (-2,428 + -2,428 + -2,427) / 3 x 1.03 is -2,500.4967; rounded before the percentage it would be -2,500.84
    const { months } = deriveYear({ kind: 'latestMonths', count: 2, changePercent: '10' }, exact([-1, -2]));
    // mean 1.5 x 1.1 = 1.65: two; rounded twice it is 2.2: two. And 0.5 x 0.9 = 0.45: zero, rounded twice one
    expect(months[0]).toBe(-2);
    expect(deriveYear({ kind: 'latestMonths', count: 2, changePercent: '-10' }, exact([0, -1])).months[0]).toBe(0);
    expect(
      deriveYear(
        { kind: 'averageYears', years: [2024, 2025], changePercent: '-10' },
        basisContext({ year: (of) => Array.from({ length: 12 }, () => minor(of === 2024 ? 1 : 0)) }),
      ).months[0],
    ).toBe(0);
  });
  it('in a rounding to a step', () => {
    // 149.5 rounds to 100; through 150 it would round to 200
    const basis: Basis = { kind: 'latestMonths', count: 2, changePercent: '0', roundTo: minor(100), most: minor(9999) };
    expect(deriveYear(basis, exact([149, 150])).months[0]).toBe(100);
  });
  it('in shares of years near the largest amounts', () => {
    const months = [...Array<number>(11).fill(100_000), 100_007];
    const context2 = exact(months);
    const total = minor(90_000_000_000);
    const shares = deriveYear({ kind: 'typedTotal', total, spread: { by: 'shares', years: [2025] } }, context2).months;
    const whole = 11 * 100_000 + 100_007;
    expect(shares[11]).toBe(Number((BigInt(total) * 100_007n * 2n + BigInt(whole)) / (2n * BigInt(whole))));
    expect(shares.reduce<number>((sum, amount) => sum + amount, 0)).toBe(total);
  });
  it('in a straight line', () => {
    // slope -1/2 from -7,488,203: every second month lies on a half and rounds away from zero
    const falling = Array.from({ length: 12 }, (_, month) => -7_488_200 - (month % 2 === 0 ? month / 2 : (month - 1) / 2));
    const { months } = deriveYear({ kind: 'trend', of: 'months', years: [2025], seasonal: false }, exact(falling));
    const [n, st, stt] = [12n, 66n, 506n];
    const sv = falling.reduce((sum, value) => sum + BigInt(value), 0n);
    const stv = falling.reduce((sum, value, time) => sum + BigInt(value) * BigInt(time), 0n);
    months.forEach((amount, month) => {
      const numerator = sv * stt - st * stv + (n * stv - st * sv) * BigInt(12 + month);
      const denominator = n * stt - st * st;
      expect(amount).toBe(-Number((-numerator * 2n + denominator) / (denominator * 2n)));
    });
  });
});

describe('bases', () => {
  it('same months of a year, changed; a partial year is reported', () => {
    expect(derived({ kind: 'sameMonths', year: 2025, changePercent: '10' }).months.slice(0, 3)).toEqual([2200, 2310, 2420]);
    const part = derived({ kind: 'sameMonths', year: 2026, changePercent: '0' });
    expect([part.months[5], part.months[6], part.issues]).toEqual([3500, 0, [{ code: 'partOfYear', year: 2026, months: 6 }]]);
    expect(derived({ kind: 'sameMonths', year: 2020, changePercent: '0' }).issues).toEqual([{ code: 'noHistory', years: [2020] }]);
    expect(derived({ kind: 'sameMonths', year: 2025, changePercent: 'a bit' }).issues).toEqual([
      { code: 'notANumber', field: 'changePercent', text: 'a bit' },
    ]);
  });
  it('same months of a year, changed by an amount a month in the shown sign, after the percentage', () => {
    const basis = { kind: 'sameMonths', year: 2025, changePercent: '10', changeAmount: minor(-50) } as const;
    expect(derived(basis).months.slice(0, 3)).toEqual([2150, 2260, 2370]);
    expect(deriveYear(basis, { ...context, sign: -1 }).months.slice(0, 3)).toEqual([2250, 2360, 2470]);
    expect(basisWords(basis, money)).toBe('Same months of FY2025, plus 10% and minus 0.50 a month');
    expect(basisWords({ ...basis, changePercent: '0', changeAmount: minor(250) }, money)).toBe('Same months of FY2025, plus 2.50 a month');
  });
  it('average of the same months over the years that have them', () => {
    const { months } = derived({ kind: 'averageYears', years: [2024, 2025, 2026], changePercent: '0' });
    expect([months[0], months[11]]).toEqual([2000, 2600]);
  });
  it('the latest months brought to a year', () => {
    expect(derived({ kind: 'latestMonths', count: 3, changePercent: '0' }).months).toEqual(Array.from({ length: 12 }, () => 600));
    expect(derived({ kind: 'latestMonths', count: 6, changePercent: '0' }).issues).toEqual([{ code: 'tooFewMonths', held: 3 }]);
  });
  it('a straight line through years or months, with average seasonality', () => {
    // totals 18,600 and 30,600: the next is 42,600
    const even = derived({ kind: 'trend', of: 'years', years: [2024, 2025], seasonal: false });
    expect(even.months).toEqual(Array.from({ length: 12 }, () => 3550));
    const seasonal = derived({ kind: 'trend', of: 'years', years: [2024, 2025], seasonal: true });
    expect(seasonal.months.reduce<number>((sum, amount) => sum + amount, 0)).toBeCloseTo(42_600, -1);
    expect(seasonal.months[11]! > seasonal.months[0]!).toBe(true);
    expect(derived({ kind: 'trend', of: 'years', years: [2025], seasonal: true }).issues).toEqual([
      { code: 'fewWholeYears', whole: [2025] },
    ]);
    expect(derived({ kind: 'trend', of: 'years', years: [2025, 2026], seasonal: true }).issues).toEqual([
      { code: 'fewWholeYears', whole: [2025] },
    ]);
    expect(derived({ kind: 'trend', of: 'months', years: [2019], seasonal: false }).issues).toEqual([{ code: 'noHistory', years: [2019] }]);
  });
  it('a driver times a rate that steps; a month without the driver is reported', () => {
    const { months, issues } = derived({
      kind: 'driverRate',
      driver: { series: 'guests' },
      rates: [
        { from: 0, value: '1.155' },
        { from: 1, value: '2' },
      ],
      unit: 100,
    });
    expect(months.slice(0, 3)).toEqual([1155, 4100, 0]);
    expect(issues).toEqual([{ code: 'noDriver', series: 'guests', months: [2] }]);
    const typed: Basis = { kind: 'driverRate', driver: { months: year(1, 0), name: 'Trips' }, rates: [{ from: 2, value: '3' }], unit: 100 };
    expect(derived(typed).months.slice(0, 4)).toEqual([0, 0, 300, 300]);
  });
  it('a percentage of other lines, and what is no line', () => {
    expect(derived({ kind: 'percentOf', accounts: '4000', percent: '41' }).months).toEqual(Array.from({ length: 12 }, () => 4100));
    expect(derived({ kind: 'percentOf', accounts: '9', percent: '41' }).issues).toEqual([{ code: 'noLine', accounts: '9' }]);
  });
  it('a fixed amount that steps, or in some months only, in the shown sign', () => {
    const steps = [
      { from: 0, value: minor(100) },
      { from: 5, value: minor(120) },
    ];
    expect(derived({ kind: 'fixedMonths', steps }).months).toEqual([100, 100, 100, 100, 100, 120, 120, 120, 120, 120, 120, 120]);
    const credit = deriveYear({ kind: 'fixedMonths', steps, months: [0, 6] }, { ...context, sign: -1 });
    expect(credit.months.filter((amount) => amount !== 0)).toEqual([-100, -120]);
  });
  it('pay of people: from their start month, raised, with what comes on top', () => {
    const positions = [
      { name: 'Guide', heads: 2, yearlyPay: minor(1_200_000), startMonth: 3, raiseMonth: 6, raisePercent: '5' },
      { name: 'Clerk', heads: 0.5, yearlyPay: minor(2_400_000), startMonth: 0 },
    ];
    const { months } = derived({ kind: 'payroll', positions, onCostPercent: '20' });
    expect([months[0], months[3], months[6]]).toEqual([120_000, 360_000, 372_000]);
    expect(derived({ kind: 'payroll', positions, onCostPercent: 'x' }).issues).toEqual([
      { code: 'notANumber', field: 'onCostPercent', text: 'x' },
    ]);
  });
  it('pay of people beside those who are there: what they were paid, changed, and the new ones on top', () => {
    const positions = [{ name: 'Clerk', heads: 1, yearlyPay: minor(1_200_000), startMonth: 6 }];
    const currentStaff = { year: 2025, changePercent: '10' };
    const basis: Basis = { kind: 'payroll', currentStaff, positions, onCostPercent: '20' };
    const there = derived({ kind: 'sameMonths', ...currentStaff });
    expect(derived(basis)).toEqual({
      months: there.months.map((amount, month) => amount + (month < 6 ? 0 : 120_000)),
      issues: there.issues,
      excluded: 0,
    });
    const unposted = { ...currentStaff, year: 2031 };
    expect(derived({ ...basis, currentStaff: unposted }).issues).toEqual([{ code: 'noHistory', years: [2031] }]);
    expect(derived({ ...basis, currentStaff: { ...currentStaff, changePercent: 'much' } }).issues).toContainEqual({
      code: 'notANumber',
      field: 'changePercent',
      text: 'much',
    });
    expect(basisWords(basis, money)).toBe(
      'Same months of FY2025, plus 10%, plus payroll of 1 person (Clerk), plus 20% for payroll taxes and benefits',
    );
  });
  it('tell a percentage of nothing, and a total in the shape of nothing', () => {
    const zeros = MONTHS.map(() => minor(0));
    const over = (lines: readonly Minor[] | null) => ({ ...context, lines: () => lines });
    const percentage: Basis = { kind: 'percentOf', accounts: '4000', percent: '41' };
    const total: Basis = { kind: 'typedTotal', total: minor(1200), spread: { by: 'line', accounts: '4000' } };
    expect(deriveYear(percentage, over(zeros)).issues).toEqual([{ code: 'zeroLine', accounts: '4000' }]);
    expect(deriveYear(percentage, over(null)).issues).toEqual([{ code: 'noLine', accounts: '4000' }]);
    for (const lines of [zeros, null])
      expect(deriveYear(total, over(lines))).toMatchObject({
        months: zeros.map(() => 100),
        issues: [{ code: 'noShape', accounts: '4000' }],
      });
    const held = MONTHS.map((month) => minor(month === 3 ? -50 : 0));
    expect(deriveYear(percentage, over(held)).issues).toEqual([]);
    expect(deriveYear(total, over(held))).toMatchObject({ months: MONTHS.map((month) => (month === 3 ? 1200 : 0)), issues: [] });
  });
  it('begin with a month, are rounded, and keep to their limits', () => {
    const basis: Basis = {
      kind: 'sameMonths',
      year: 2025,
      changePercent: '0',
      fromMonth: 2,
      roundTo: minor(1000),
      least: minor(2500),
      most: minor(3000),
    };
    expect(derived(basis).months).toEqual([0, 0, 2500, 2500, 2500, 3000, 3000, 3000, 3000, 3000, 3000, 3000]);
    expect(basisWords(basis, money)).toBe(
      'Same months of FY2025, unchanged, from month 3 on, rounded to 10.00, minimum 25.00 a month, maximum 30.00 a month',
    );
  });
  it('leave held months alone, whatever the kind', () =>
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 11 }), fc.integer({ min: -1e9, max: 1e9 }), (month, amount) => {
        for (const kind of ['sameMonths', 'latestMonths', 'typed'] as const) {
          const basis = { kind, year: 2025, count: 3, changePercent: '0' } as Basis;
          expect(deriveMonths(basis, context, new Map([[month, minor(amount)]]))[month]).toBe(amount + 0);
        }
      }),
    ));
  it('each have words', () => {
    const some: { [Kind in Basis['kind']]: Basis } = {
      sameMonths: { kind: 'sameMonths', year: 2025, changePercent: '3' },
      yearTotal: { kind: 'yearTotal', year: 2025, changePercent: '2', spread: 'even', projected: true },
      averageYears: { kind: 'averageYears', years: [2024, 2025], changePercent: '-2' },
      latestMonths: { kind: 'latestMonths', count: 3, changePercent: '0' },
      trend: { kind: 'trend', of: 'years', years: [2024, 2025], seasonal: true },
      percentOf: { kind: 'percentOf', accounts: '4000-4099', percent: '41' },
      driverRate: {
        kind: 'driverRate',
        driver: { series: 'guests' },
        rates: [
          { from: 0, value: '12.5' },
          { from: 8, value: '13' },
        ],
        unit: 100,
      },
      fixedMonths: {
        kind: 'fixedMonths',
        steps: [
          { from: 0, value: minor(1600) },
          { from: 5, value: minor(1700) },
        ],
      },
      payroll: { kind: 'payroll', positions: [{ name: 'Guide', heads: 2, yearlyPay: minor(100), startMonth: 0 }], onCostPercent: '20' },
      typedTotal: { kind: 'typedTotal', total: minor(1200), spread: 'even' },
      typed: { kind: 'typed' },
    };
    expect(Object.keys(some).sort()).toEqual(Object.keys(BASES).sort());
    expect(Object.values(some).map((basis) => basisWords(basis, money))).toEqual([
      'Same months of FY2025, plus 3%',
      'Total of FY2025, plus 2%, spread evenly, remaining months from the approved budget',
      'Average of the same months of FY2024 to FY2025, minus 2%',
      'Latest 3 months, annualized, unchanged',
      'Linear trend of the years of FY2024 to FY2025, with average seasonality',
      '41% of 4000-4099',
      'guests times 12.5, then 13 from month 9',
      '16.00 a month, then 17.00 from month 6',
      'Payroll of 2 people (Guide), plus 20% for payroll taxes and benefits',
      'Annual total of 12.00, spread evenly',
      'Manual entry',
    ]);
  });
});

describe('a basis set on a row', () => {
  const line = (amount: number): BudgetLine => ({
    account: '1',
    dimensions: {},
    basis: { kind: 'typed' },
    months: Array.from({ length: 12 }, (_, month) => ({ amount: minor(amount), held: month === 0 })),
  });
  it('derives what is not held', () => {
    const result = editBudget([{ line: line(7), context }], {
      kind: 'basis',
      basis: { kind: 'sameMonths', year: 2025, changePercent: '0' },
    });
    expect(result.ok && result.lines[0]!.months.slice(0, 2)).toEqual([
      { amount: 7, held: true },
      { amount: 2100, held: false },
    ]);
  });
  it('with amounts of its own is for one line only', () =>
    expect(
      editBudget(
        [
          { line: line(7), context },
          { line: line(8), context },
        ],
        {
          kind: 'basis',
          basis: { kind: 'fixedMonths', steps: [{ from: 0, value: minor(1) }] },
        },
      ),
    ).toEqual({ ok: false, code: 'severalLines' }));
  it('with an amount on top of history is for one line only too, and without one for each', () => {
    const several = [7, 8].map((id) => ({ line: line(id), context }));
    const basis = (changeAmount: number) => ({
      kind: 'basis' as const,
      basis: { kind: 'sameMonths', year: 2025, changePercent: '0', changeAmount: minor(changeAmount) } as const,
    });
    expect(editBudget(several, basis(100))).toEqual({ ok: false, code: 'severalLines' });
    expect(editBudget(several, basis(0)).ok).toBe(true);
    expect(editBudget(several.slice(1), basis(100)).ok).toBe(true);
  });
});
