import type { TieOutDto } from '@wise-margin/contract';
import {
  BALANCE_LINES,
  CASH_FLOW_LINES,
  type ColumnSet,
  figureLeaves,
  groupLeaves,
  INCOME_LINES,
  type LineSet,
  periodAt,
  type PeriodIndex,
  periodOfYear,
  shortPeriodName,
  type SpanKind,
  type StatementGrid,
} from '@wise-margin/core';

import type { Books } from '../../companies/index.ts';
import type { Evaluator } from '../../evaluation/index.ts';
import { pair, someOf } from './pair.ts';

const over = (kind: SpanKind): ColumnSet => ({
  key: `tie-out-${kind}`,
  name: 'Tie-out',
  blocks: [
    {
      key: 'now',
      heading: '{span}',
      span: { kind },
      columns: [{ kind: 'amount', key: 'actual', heading: 'Actual', scenario: 'actual', span: { kind } }],
    },
  ],
});
const [YEAR_TO_DATE, MONTH] = [over('yearToDate'), over('month')];

/** Figures that must agree between the statements, as of a month. */
export async function statementTies(evaluator: Evaluator, books: Books, asOf: PeriodIndex): Promise<TieOutDto[]> {
  const evaluate = async (lineSet: LineSet, columnSet: ColumnSet, at = asOf): Promise<StatementGrid> =>
    (await evaluator.evaluate(books, { lineSet, columnSet, asOf: at, filter: {} })).grid;
  const month = periodAt(books.calendar, asOf);
  const query = `asOf=${month.key}`;
  const [income, balance, cash] = [
    await evaluate(INCOME_LINES, YEAR_TO_DATE),
    await evaluate(BALANCE_LINES, MONTH),
    await evaluate(CASH_FLOW_LINES, YEAR_TO_DATE),
  ];
  const yearStart = periodOfYear(books.calendar, month.year, 1)!;
  const unbalanced: string[] = [];
  for (let at = yearStart; at <= asOf; at = (at + 1) as PeriodIndex) {
    const grid = await evaluate(BALANCE_LINES, MONTH, at);
    if (amountOf(grid, 'total_assets') !== amountOf(grid, 'liabilities_and_equity')) unbalanced.push(shortPeriodName(books.calendar, at));
  }
  return [
    pair({
      key: 'balance-sheet',
      group: 'Statements',
      name: 'The balance sheet balances in every month of the year',
      first: { words: 'Total assets', amount: amountOf(balance, 'total_assets') },
      second: { words: 'Total liabilities and equity', amount: amountOf(balance, 'liabilities_and_equity') },
      holds: unbalanced.length === 0,
      where: `Months that do not balance: ${someOf(unbalanced)}.`,
      link: `statements/balance-months?${query}`,
    }),
    pair({
      key: 'net-income',
      group: 'Statements',
      name: 'Net income agrees between balance sheet and income statement',
      first: { words: 'Net income, year to date, on the balance sheet', amount: amountOf(balance, 'result_of_the_year') },
      second: { words: 'Net income on the income statement', amount: amountOf(income, 'net_income') },
      where: 'Open both statements for the same month.',
      link: `statements/income?${query}`,
    }),
    pair({
      key: 'cash-flow',
      group: 'Statements',
      name: 'The cash flow explains the change in cash',
      first: { words: 'Net change in cash, year to date', amount: amountOf(cash, 'net_change_in_cash') },
      second: {
        words: 'Cash at the end less cash at the beginning',
        amount: amountOf(cash, 'cash_after') - amountOf(cash, 'cash_before'),
      },
      where: 'The statement of cash flows shows what is not explained at its foot.',
      link: `statements/cash-flow?${query}`,
    }),
    ...sliceTies(books, income, query),
    ...(await rollForward(books, { asOf, yearStart, evaluate })),
  ];
}

function amountOf({ plan, cells }: StatementGrid, line: string): number {
  const cell = cells[plan.lineOfKey.get(line)!]![0]!;
  return cell.kind === 'amount' ? cell.value : 0;
}

/** Net income by each dimension against its total. */
function sliceTies(books: Books, income: StatementGrid, query: string): TieOutDto[] {
  const line = income.plan.lineOfKey.get('net_income')!;
  const leaves = figureLeaves(income, line, 0) ?? [];
  return books.dimensions.map(({ name }) => {
    const groups = groupLeaves(income, leaves, { kind: 'dimension', name }) ?? [];
    return pair({
      key: `slices-${name}`,
      group: 'Statements',
      name: `Net income by ${name} adds up to the total`,
      first: { words: `Sum of every ${name}`, amount: groups.reduce((sum, { amount }) => sum + amount, 0) },
      second: { words: 'Net income, year to date', amount: amountOf(income, 'net_income') },
      where: `Lay net income out by ${name} in its drill-down.`,
      link: `statements/income?${query}&figure=net_income~ytd.actual&groupBy=${encodeURIComponent(name)}`,
    });
  });
}

/**
 * Retained earnings at the start of the fiscal year, against those a year before with that year's net income and
 * dividends. Postings straight to retained earnings part the two.
 */
async function rollForward(
  books: Books,
  {
    yearStart,
    evaluate,
  }: {
    readonly asOf: PeriodIndex;
    readonly yearStart: PeriodIndex;
    readonly evaluate: (lineSet: LineSet, columnSet: ColumnSet, at: PeriodIndex) => Promise<StatementGrid>;
  },
): Promise<TieOutDto[]> {
  const before = yearStart - 12;
  if (before < 0 || books.firstPosted === null || books.firstPosted > before) return [];
  const [now, then] = [await evaluate(BALANCE_LINES, MONTH, yearStart), await evaluate(BALANCE_LINES, MONTH, before as PeriodIndex)];
  const lastMonth = (yearStart - 1) as PeriodIndex;
  const [end, year] = [await evaluate(BALANCE_LINES, MONTH, lastMonth), await evaluate(INCOME_LINES, YEAR_TO_DATE, lastMonth)];
  const dividends = end.plan.lines
    .filter(({ key, kind }) => kind === 'accounts' && key.startsWith('dividend_lines'))
    .reduce((sum, { index }) => {
      const cell = end.cells[index]![0]!;
      return sum + (cell.kind === 'amount' ? cell.value : 0);
    }, 0);
  const { year: fiscalYear } = periodAt(books.calendar, lastMonth);
  return [
    pair({
      key: 'retained-earnings',
      group: 'Statements',
      name: `Retained earnings roll forward from FY${fiscalYear}`,
      first: { words: `Retained earnings in ${shortPeriodName(books.calendar, yearStart)}`, amount: amountOf(now, 'retained_earnings') },
      second: {
        words: `FY${fiscalYear}: opening retained earnings, net income and dividends`,
        amount: amountOf(then, 'retained_earnings') + amountOf(year, 'net_income') + dividends,
      },
      where: 'Something was posted to retained earnings directly. Open the account’s entries.',
      link: `statements/balance?asOf=${periodAt(books.calendar, yearStart).key}`,
    }),
  ];
}
