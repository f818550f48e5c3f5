import { coverageOf, incomePositions, lastSlot, type ColumnSet, type StatementGrid, type StatementPlan } from '@wise-margin/core';
import type { CoverageDto } from '@wise-margin/contract';
import type { Books } from '../companies/books.ts';

/** The one column that the bottom line is compared in. */
export const YEAR_TO_DATE: ColumnSet = {
  key: 'coverage',
  name: 'Year to date',
  blocks: [
    {
      key: 'ytd',
      heading: '',
      span: { kind: 'yearToDate' },
      columns: [{ kind: 'amount', key: 'actual', heading: '', scenario: 'actual', span: { kind: 'yearToDate' } }],
    },
  ],
};

/**
 * How a statement's lines cover the chart, and whether its bottom is the ledger's net income.
 * @param grid the lines over `YEAR_TO_DATE`
 * @param whole the shipped income statement's over the same, whose bottom is the ledger's net income
 */
export function coverageDto(books: Books, grid: StatementGrid, whole: StatementGrid): CoverageDto {
  const { plan } = grid;
  const slab = books.cube.slab({});
  const posted = books.chart.accounts.map((_, account) => hasPostings(books, slab, account));
  const named = (account: number) => ({ number: books.chart.accounts[account]!.number, name: books.chart.accounts[account]!.name });
  const { inNone, inSeveral } = coverageOf(plan, books.chart, posted);
  return {
    inNone: inNone.map(named),
    inSeveral: inSeveral.map(({ account, lines }) => ({ ...named(account), lines: [...lines] })),
    netIncome: netIncomeOf(books, plan, grid, whole),
  };
}

function hasPostings(books: Books, slab: ReturnType<Books['cube']['slab']>, account: number): boolean {
  return books.calendar.periods.some(({ index }) => slab.closing(account, lastSlot(books.calendar, index)) !== 0);
}

function netIncomeOf(books: Books, plan: StatementPlan, grid: StatementGrid, whole: StatementGrid): CoverageDto['netIncome'] {
  const income = new Set(incomePositions(books.chart));
  const isIncome = plan.lines.some(({ source }) => source.kind === 'accounts' && source.accounts.some((account) => income.has(account)));
  const holdsBalances = plan.lines.some((line) => line.holdsBalances);
  if (!isIncome || holdsBalances) return null;
  const bottom = plan.lines.findLast((line) => !line.hidden && line.depth === 0 && grid.cells[line.index]![0]?.kind === 'amount');
  const shown = bottom && grid.cells[bottom.index]![0]!;
  const ledger = whole.cells[whole.plan.lineOfKey.get('net_income')!]![0]!;
  if (!shown || shown.kind !== 'amount' || ledger.kind !== 'amount') return null;
  return { line: bottom.name, shown: shown.value, ledger: ledger.value, agrees: shown.value === ledger.value };
}
