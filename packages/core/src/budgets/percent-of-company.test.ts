import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { minor } from '../money/minor.ts';
import type { Sharing } from './bases/from-drivers.ts';
import { type Basis, deriveYear } from './basis.ts';
import { rowAmount } from './budget-line.ts';
import { booksOf, fact, head, line, NORTH, positionOf, SOUTH } from './small-budget.ts';
import { wholeAccount } from './whole-account.ts';
import { BudgetWorksheet } from './worksheet.ts';

const TYPED: Basis = { kind: 'typed' };
const of = (how: Partial<Basis & { kind: 'percentOf' }>): Basis => ({ kind: 'percentOf', accounts: '4000', percent: '18.5', ...how });
// 100.00 and 300.00 of revenue in each month of the plan; 6000 was 30.00 in the north and 90.00 in the south
const HISTORY = Array.from({ length: 6 }, (_, at) => [
  fact('6000', 2026, at + 1, 500, NORTH),
  fact('6000', 2026, at + 1, 1500, SOUTH),
]).flat();
const worksheetWith = (facts = HISTORY) =>
  new BudgetWorksheet({
    books: booksOf({ facts }),
    head,
    lines: [
      line(1, '4000', TYPED, -10_000, NORTH),
      line(2, '4000', TYPED, -30_000, SOUTH),
      line(3, '6000', TYPED, 0, NORTH),
      line(4, '6000', TYPED, 0, SOUTH),
    ],
  });
const months = (worksheet: BudgetWorksheet, department: string) =>
  rowAmount(worksheet.linesOf(positionOf('6000'), { department: [department] }), 0);
const year = (worksheet: BudgetWorksheet) => rowAmount(worksheet.linesOf(positionOf('6000'), {}), 'year');
const REVENUE = 480_000;

describe('a percentage of the company base', () => {
  it.each<[string, Basis, number, number]>([
    ['of its own department', of({}), 1850, 5550],
    ['shared by history', of({ shared: 'history' }), 1850, 5550],
    ['shared by weights', of({ shared: { weights: { North: 3, South: 1 } } }), 5550, 1850],
    ['of the company for each line', of({ wholeCompany: true }), 7400, 7400],
  ])('%s', (_, basis, north, south) => {
    const worksheet = worksheetWith();
    worksheet.apply([{ kind: 'basis', account: '6000', basis }], {});
    expect([months(worksheet, 'North'), months(worksheet, 'South')]).toEqual([north, south]);
  });
  it('for each line, says what the whole account comes to', () => {
    const worksheet = worksheetWith();
    const each = of({ wholeCompany: true });
    worksheet.apply([{ kind: 'basis', account: '6000', basis: each }], {});
    const [first] = worksheet.linesOf(positionOf('6000'), {});
    expect(wholeAccount(worksheet, first!, each)).toEqual({ total: 177_600, base: REVENUE, permille: 370 });
    expect(wholeAccount(worksheet, first!, of({ shared: 'history' }))).toBeNull();
    expect(wholeAccount(worksheet, first!, of({ wholeCompany: true, accounts: '4900' }))).toBeNull();
  });
  it('shared, it follows what other departments sell', () => {
    const worksheet = worksheetWith();
    worksheet.apply([{ kind: 'basis', account: '6000', basis: of({ shared: 'history' }) }], {});
    worksheet.apply([{ kind: 'month', account: '4000', month: 0, text: '500' }], { department: ['South'] });
    expect([months(worksheet, 'North'), months(worksheet, 'South')]).toEqual([2775, 8325]);
  });
  it('shared, a line takes its own part also where the others stand as they are', () => {
    const worksheet = worksheetWith();
    worksheet.apply([{ kind: 'basis', account: '6000', basis: of({ shared: 'history' }) }], { department: ['South'] });
    expect([months(worksheet, 'North'), months(worksheet, 'South')]).toEqual([0, 5550]);
  });
  it('tells weights of no line, and shares equally where nothing weighs', () => {
    const worksheet = worksheetWith([]);
    const issuesOf = (shared: Sharing) => {
      const [first] = worksheet.linesOf(positionOf('6000'), {});
      return deriveYear(of({ shared }), worksheet.contextOf(first!)).issues;
    };
    expect(issuesOf('history')).toEqual([{ code: 'noWeights', by: 'history' }]);
    expect(issuesOf({ weights: { Nroth: 2, South: 1 } })).toEqual([{ code: 'noSlice', slices: ['Nroth'], known: ['North', 'South'] }]);
    expect(issuesOf({ weights: {} })).toEqual([{ code: 'noWeights', by: 'weights' }]);
    worksheet.apply([{ kind: 'basis', account: '6000', basis: of({ shared: 'history' }) }], {});
    expect([months(worksheet, 'North'), months(worksheet, 'South')]).toEqual([3700, 3700]);
  });
  it('shared, the account holds the percentage once, to the cent or the rounding unit', () => {
    fc.assert(
      fc.property(
        fc.record({ north: fc.integer({ min: 0, max: 999 }), south: fc.integer({ min: 1, max: 999 }) }),
        fc.constantFrom(1, 100, 10_000),
        ({ north, south }, step) => {
          const worksheet = worksheetWith();
          const shared: Sharing = { weights: { North: north, South: south } };
          worksheet.apply([{ kind: 'basis', account: '6000', basis: of({ shared, roundTo: minor(step) }) }], {});
          expect(year(worksheet)).toBe(Math.round((REVENUE * 0.185) / step) * step);
        },
      ),
      { numRuns: 60 },
    );
  });
});
