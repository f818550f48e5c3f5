import type { CoverageDto } from '@wise-margin/contract';
import { bottomOfIncome, type ColumnSet, coverageOf, lastSlot, type StatementGrid } from '@wise-margin/core';

import type { Books } from '../companies/index.ts';

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
  const slab = books.cube.slab({});
  const posted = books.chart.accounts.map((_, account) => hasPostings(books, slab, account));
  const named = (account: number) => ({ number: books.chart.accounts[account]!.number, name: books.chart.accounts[account]!.name });
  const nameOf = new Map(grid.plan.lines.map(({ key, name }) => [key, name || key]));
  const { held, inNone, inSeveral } = coverageOf(grid.plan, books.chart, posted);
  return {
    held,
    inNone: inNone.map(named),
    inSeveral: inSeveral.map(({ account, lines }) => ({ ...named(account), lines: lines.map((key) => nameOf.get(key)!) })),
    netIncome: netIncomeOf(posted, books, { grid, whole }),
  };
}

function hasPostings(books: Books, slab: ReturnType<Books['cube']['slab']>, account: number): boolean {
  return books.calendar.periods.some(({ index }) => slab.closing(account, lastSlot(books.calendar, index)) !== 0);
}

function netIncomeOf(
  posted: readonly boolean[],
  books: Books,
  { grid, whole }: { readonly grid: StatementGrid; readonly whole: StatementGrid },
): CoverageDto['netIncome'] {
  const bottom = bottomOfIncome(grid.plan, books.chart, posted);
  const shown = bottom && grid.cells[bottom.index]![0]!;
  const ledger = whole.cells[whole.plan.lineOfKey.get('net_income')!]![0]!;
  if (!shown || shown.kind !== 'amount' || ledger.kind !== 'amount') return null;
  return { line: bottom.name, shown: shown.value, ledger: ledger.value, agrees: shown.value === ledger.value };
}
