import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { minor } from '../money/minor.ts';
import { basisContext } from './bases/empty-context.ts';
import { basisWords, changed, deriveMonths } from './basis.ts';
import { parseBudgetEntry } from './budget-entry.ts';
import { type BudgetLine, yearTotal } from './budget-line.ts';
import { editBudget, type EditedLine } from './edit.ts';
import { SPREAD_KINDS, spreadTotal, spreadWords } from './spread.ts';

const days = [30, 31, 30, 31, 31, 30, 31, 30, 31, 31, 28, 31];
const workingDays = [22, 21, 22, 23, 21, 22, 22, 21, 23, 21, 20, 23];
const history = [100, 200, 300, 400, 0, 0, 0, 0, 0, 0, 0, 0];
const all = [...history.keys()];
const lineOf = (amounts: readonly number[], held: readonly number[] = []): BudgetLine => ({
  account: '1',
  dimensions: {},
  basis: { kind: 'typed' },
  months: amounts.map((amount, index) => ({ amount: minor(amount), held: held.includes(index) })),
});
const edited = (amounts: readonly number[], held: readonly number[] = []): EditedLine => ({
  line: lineOf(amounts, held),
  context: basisContext({ history, days, workingDays, year: () => history.map(minor) }),
});
const anyAmounts = fc.array(fc.integer({ min: -1e9, max: 1e9 }), { minLength: 12, maxLength: 12 });

describe('basis', () => {
  it('changes by percent exactly and rounds half away from zero', () => {
    expect(changed(minor(10050), '3', minor(0))).toBe(10352);
    expect(changed(minor(-10050), '3', minor(0))).toBe(-10352);
    expect(changed(minor(123456), '-2.5', minor(10000))).toBe(120000);
    expect(() => changed(minor(1), 'three', minor(0))).toThrow('not a decimal number');
  });
  it('derives the same months, leaving held ones alone', () => {
    const months = deriveMonths(
      { kind: 'sameMonths', year: 2026, changePercent: '10', roundTo: minor(0) },
      basisContext({ history, days, year: () => history.map(minor) }),
      new Map([[1, minor(7)]]),
    );
    expect(months).toEqual([110, 7, 330, 440, 0, 0, 0, 0, 0, 0, 0, 0]);
  });
  it('reads as a sentence', () => {
    const format = (amount: number) => String(amount / 100);
    expect(basisWords({ kind: 'sameMonths', year: 2026, changePercent: '3', roundTo: minor(10000) }, format)).toBe(
      'Same months of FY2026, plus 3%, rounded to 100',
    );
    expect(basisWords({ kind: 'sameMonths', year: 2026, changePercent: '-1.5', roundTo: minor(0) }, format)).toBe(
      'Same months of FY2026, minus 1.5%',
    );
    expect(basisWords({ kind: 'sameMonths', year: 2026, changePercent: '0', roundTo: minor(0) }, format)).toBe(
      'Same months of FY2026, unchanged',
    );
    expect(basisWords({ kind: 'typedTotal', total: minor(1200), spread: 'days' }, format)).toBe(
      'Annual total of 12, spread by days in month',
    );
  });
});

describe('spreads', () => {
  it('as another line, and in the average shape of whole years', () => {
    const months = (first: number) => [first, ...Array.from({ length: 11 }, () => 100)].map(minor);
    const context = basisContext({
      days,
      year: (year) => (year === 2025 ? months(0) : year === 2026 ? months(1200) : Array.from({ length: 12 }, () => null)),
      lines: (accounts) => (accounts === '4000' ? months(-1100) : null),
    });
    expect(spreadTotal(minor(220), { by: 'line', accounts: '4000' }, { months: all, context })[0]).toBe(110);
    // the first month holds none of one year and 1,200 of 2,300 of the other: 26.087%
    expect(spreadTotal(minor(100_000), { by: 'shares', years: [2024, 2025, 2026] }, { months: all, context })[0]).toBe(26_087);
    expect(spreadTotal(minor(120), { by: 'line', accounts: '9' }, { months: all, context })).toEqual(Array.from({ length: 12 }, () => 10));
    expect(spreadWords({ by: 'shares', years: [2024, 2025, 2026] })).toBe('with average seasonality of FY2024 to FY2026');
  });
  it.each([
    ['history', [100, 200, 300, 400, 0, 0, 0, 0, 0, 0, 0, 0]],
    ['even', [84, 84, 84, 84, 83, 83, 83, 83, 83, 83, 83, 83]],
    ['days', [82, 85, 82, 85, 85, 82, 85, 82, 85, 85, 77, 85]],
    ['workingDays', [84, 81, 84, 88, 81, 84, 84, 81, 88, 80, 77, 88]],
    [{ by: 'weights', weights: [1, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 3] }, [250, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 750]],
  ] as const)('%s', (kind, expected) =>
    expect(spreadTotal(minor(1000), kind, { months: all, context: basisContext({ history, days, workingDays }) })).toEqual(expected),
  );
  it('is even where history has nothing', () =>
    expect(spreadTotal(minor(100), 'history', { months: [4, 5], context: basisContext({ history, days, workingDays }) })).toEqual([
      50, 50,
    ]));
  it('always gives the exact total', () =>
    fc.assert(
      fc.property(
        fc.constantFrom(...SPREAD_KINDS),
        fc.integer({ min: -1e12, max: 1e12 }),
        anyAmounts,
        fc.subarray(all, { minLength: 1 }),
        (kind, total, past, months) => {
          expect(
            spreadTotal(minor(total), kind, { months, context: basisContext({ history: past, days, workingDays }) }).reduce<number>(
              (sum, part) => sum + part,
              0,
            ),
          ).toBe(total === 0 ? 0 : total);
        },
      ),
    ));
});

describe('edits', () => {
  it('a month typed is held and the others stay', () => {
    const result = editBudget([edited(history)], { kind: 'month', month: 2, amount: minor(999) });
    expect(result.ok && result.lines[0]!.months[2]).toEqual({ amount: 999, held: true });
    expect(result.ok && result.lines[0]!.months[1]).toEqual({ amount: 200, held: false });
  });
  it('a year typed is spread over the free months and leaves held ones', () => {
    const result = editBudget([edited(history, [0])], { kind: 'year', amount: minor(1900), spread: 'history' });
    expect(result.ok && result.lines[0]!.months.map(({ amount }) => amount)).toEqual([100, 400, 600, 800, 0, 0, 0, 0, 0, 0, 0, 0]);
  });
  it('refuses a year when all twelve months are held, and a row without lines', () => {
    expect(editBudget([edited(history, all)], { kind: 'year', amount: minor(5), spread: 'even' })).toEqual({
      ok: false,
      code: 'allMonthsHeld',
    });
    expect(editBudget([], { kind: 'year', amount: minor(5), spread: 'even' })).toEqual({ ok: false, code: 'noLines' });
  });
  it('a released month goes back to what the basis gives', () => {
    const line: BudgetLine = {
      ...lineOf([5, ...history.slice(1)], [0]),
      basis: { kind: 'sameMonths', year: 2026, changePercent: '0', roundTo: minor(0) },
    };
    const result = editBudget([{ line, context: basisContext({ history, days, year: () => history.map(minor) }) }], {
      kind: 'release',
      months: [0],
    });
    expect(result.ok && result.lines[0]!.months[0]).toEqual({ amount: 100, held: false });
  });
  it('the row always adds up to what was typed, however many lines it has and whatever is held', () =>
    fc.assert(
      fc.property(
        fc.array(fc.tuple(anyAmounts, fc.subarray(all, { maxLength: 11 })), { minLength: 1, maxLength: 5 }),
        fc.integer({ min: -1e10, max: 1e10 }),
        fc.integer({ min: 0, max: 11 }),
        fc.constantFrom(...SPREAD_KINDS),
        (rows, amount, month, spread) => {
          const lines = rows.map(([amounts, held]) => edited(amounts, held));
          const byMonth = editBudget(lines, { kind: 'month', month, amount: minor(amount) });
          expect(byMonth.ok && byMonth.lines.reduce((sum, line) => sum + line.months[month]!.amount, 0)).toBe(amount === 0 ? 0 : amount);
          const byYear = editBudget(lines, { kind: 'year', amount: minor(amount), spread });
          expect(byYear.ok && byYear.lines.reduce((sum, line) => sum + yearTotal(line.months), 0)).toBe(amount === 0 ? 0 : amount);
          if (byYear.ok)
            rows.forEach(([amounts, held], index) =>
              held.forEach((at) => expect(byYear.lines[index]!.months[at]!.amount).toBe(amounts[at] === 0 ? 0 : amounts[at])),
            );
        },
      ),
    ));
});

describe('what is typed into a cell', () => {
  it.each([
    ['1250', 125000],
    ['1,250.50', 125050],
    ['-300', -30000],
    ['(300)', -30000],
    ['12k', 1200000],
    ['1.2m', 120000000],
    ['+5%', 10500],
    ['-5%', 9500],
    ['*1.1', 11000],
    ['/12', 833],
    ['/ 2.5', 4000],
    ['0', 0],
    ['1.5K', 150000],
    ['$1,250.00', 125000],
    ['-$1,250', -125000],
    ['($500.00)', -50000],
    ['$(500)', -50000],
    ['( 500 )', -50000],
    ['1,250-', -125000],
    ['USD 12', 1200],
    ['12 EUR', 1200],
    ['€ 12.50', 1250],
    ['1\u00a0250'.replace('\u00a0', ','), 125000],
    ['\u00a0 1,250.00 \u202f', 125000],
    ['-', 0],
    ['–', 0],
    ['—', 0],
    ['−300', -30000],
  ])('%s over 100.00', (text, value) => expect(parseBudgetEntry(text, minor(10000), 2)).toEqual({ ok: true, value }));
  it.each([
    ['twelve', 'notAnAmount'],
    ['', 'notAnAmount'],
    ['/0', 'divisionByZero'],
    ['1.234', 'tooManyDecimals'],
    ['99999999999m', 'tooLarge'],
    ['*', 'notAnAmount'],
    ['1,23', 'notAnAmount'],
    ['5%', 'notAnAmount'],
    ['=1+1', 'notAnAmount'],
    ['$1.234', 'tooManyDecimals'],
    ['USD', 'notAnAmount'],
    ['()', 'notAnAmount'],
    ['(1)(2)', 'notAnAmount'],
    ['5--', 'notAnAmount'],
    [' '.repeat(200_000), 'notAnAmount'],
    ['1'.repeat(400), 'notAnAmount'],
  ])('refuses %j', (text, code) => expect(parseBudgetEntry(text, minor(10000), 2)).toEqual({ ok: false, issue: { code } }));
});
