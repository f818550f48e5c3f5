import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { type PeriodIndex, slotCount, slotOfYear } from '../calendar/fiscal-calendar.ts';
import { isIncomeAccount } from '../chart/account.ts';
import { BalanceCube } from '../ledger/balance-cube.ts';
import { actualThrough, lastActualMonth, NO_ACTUALS, shownThrough } from '../ledger/last-actual.ts';
import { minor } from '../money/minor.ts';
import { evaluate } from './evaluate.ts';
import { actualScenario, budgetScenario, projectionScenario } from './scenarios.ts';
import { OUTLOOK_COLUMNS } from './shipped/comparison-columns.ts';
import { INCOME_LINES } from './shipped/income-lines.ts';
import { calendar, chart } from './small-books.ts';
import { planStatement } from './statement-plan.ts';

const income = chart.accounts.flatMap((account, position) => (isIncomeAccount(account) ? [position] : []));
const amounts = fc.array(
  fc.record({ account: fc.constantFrom(...income), month: fc.nat(35), amount: fc.integer({ min: -90_000, max: 90_000 }) }),
  { maxLength: 60 },
);
type Amounts = readonly { readonly account: number; readonly month: number; readonly amount: number }[];
const cubeOf = (of: Amounts): BalanceCube => {
  const cube = new BalanceCube({ isIncome: chart.accounts.map(isIncomeAccount), slots: slotCount(calendar) });
  cube.post(
    of.map(({ account, month, amount }) => {
      const { year, number } = calendar.periods[month]!;
      return { account, slot: slotOfYear(calendar, year, number)!, combination: {}, layer: 'ordinary' as const, amount: minor(amount) };
    }),
  );
  return cube;
};

/** The outlook's columns of every line with amounts, as the application composes them. */
function outlook(options: { readonly posted: Amounts; readonly budgeted: Amounts; readonly asOf: number; readonly closed: number | null }) {
  const asOf = options.asOf as PeriodIndex;
  const cube = cubeOf(options.posted);
  const months = options.posted.map(({ month }) => month);
  const firstPosted = months.length === 0 ? null : (Math.min(...months) as PeriodIndex);
  const lastPosted = months.length === 0 ? null : (Math.max(...months) as PeriodIndex);
  const { month: lastActual } = lastActualMonth({
    ...{ calendar, slab: cube.slab({}), accounts: chart.accounts.length, firstPosted, lastPosted, chosen: null },
    closed: options.closed as PeriodIndex | null,
  });
  const last = shownThrough({ lastActual, lastPosted }, asOf);
  const through = actualThrough({ firstPosted, lastActual }, asOf);
  const books = { chart, calendar, firstPosted, statistics: { value: () => null } };
  const budgetCube = cubeOf(options.budgeted);
  const budget = budgetScenario(books, new Map([2024, 2025, 2026].map((year) => [year, { cube: budgetCube, dimensions: [] }])));
  const actual = actualScenario(books, { cube, last });
  const projection = projectionScenario(books, actual, { budget, through });
  const { plan } = planStatement({
    ...{ lineSet: INCOME_LINES, columnSet: OUTLOOK_COLUMNS, chart, calendar, asOf, through: through ?? NO_ACTUALS },
    posted: firstPosted === null || last === null ? null : { first: firstPosted, last },
  });
  const grid = evaluate(plan, (ref) => (ref === 'actual' ? actual : ref === 'budget' ? budget : projection), {});
  const at = (line: number, key: string): number => {
    const cell = grid.cells[line]![plan.columns.findIndex((column) => column.key === key)]!;
    return cell.kind === 'amount' ? cell.value : 0;
  };
  return {
    lastActual,
    through,
    rows: plan.lines.flatMap(({ key, index, kind }) =>
      kind === 'accounts' || kind === 'account' || kind === 'total' || key === 'operating_income'
        ? [{ key, toDate: at(index, 'ytd.actual'), rest: at(index, 'rest.budget'), projected: at(index, 'year.projection') }]
        : [],
    ),
  };
}

describe('the year-end outlook', () => {
  it('adds across on every line, whatever is posted after the as-of month and whichever months are closed', () =>
    fc.assert(
      fc.property(amounts, amounts, fc.nat(35), fc.option(fc.nat(35)), (posted, budgeted, asOf, closed) => {
        const { rows } = outlook({ posted, budgeted, asOf, closed });
        for (const { key, toDate, rest, projected } of rows) expect([key, projected]).toEqual([key, toDate + rest]);
      }),
      { numRuns: 150 },
    ));
  it('takes the month under way from the budget, although a reversal is posted in it', () => {
    const months = Array.from({ length: 7 }, (_, month) => income.map((account) => ({ account, month, amount: -100 }))).flat();
    const reversal = { account: income[0]!, month: 7, amount: 1200 };
    const budgeted = income.map((account) => ({ account, month: 7, amount: -70 }));
    for (const asOf of [6, 7]) {
      const { rows, lastActual } = outlook({ posted: [...months, reversal], budgeted, asOf, closed: null });
      expect(lastActual).toBe(6);
      const revenue = rows.find(({ key }) => key === 'revenue') ?? rows[0]!;
      expect(revenue.projected).toBe(7 * 100 + 70);
    }
  });
});
