import {
  basisWords,
  formatAmount,
  minor,
  passes,
  periodOfYear,
  signOf,
  yearByMonth,
  yearTotal,
  type DimensionFilter,
} from '@wise-margin/core';
import type { BudgetRowDto } from '@wise-margin/contract';
import type { Books } from '../companies/books.ts';
import { basisToShown } from './apply-edit.ts';
import { lacksOf, monthName } from './line-context.ts';
import type { StoredBudget } from './store.ts';

/** A row of the grid: the lines under it in the account's shown sign, and three years of history. */
export function rowDto(books: Books, budget: StoredBudget, position: number, filter: DimensionFilter): BudgetRowDto {
  const account = books.chart.accounts[position]!;
  const sign = signOf(account);
  const shown = (amount: number) => minor(sign * amount);
  const lines = budget.lines.filter((line) => line.position === position && passes(filter, line.dimensions));
  const slab = books.cube.slab(filter);
  const { exponent } = books.currency;
  const month = monthName(books, budget.row.year);
  return {
    account: account.number,
    held: Array.from({ length: 12 }, (_, month) => lines.some((line) => line.months[month]!.held)),
    lines: lines.map((line) => ({
      id: line.id,
      dimensions: { ...line.dimensions },
      basis: basisWords(basisToShown(line.basis, sign), (amount) => formatAmount(amount, { exponent, unit: 'dollars' }), month),
      basisForm: basisToShown(line.basis, sign),
      lacks: lacksOf(books, budget.row, { line, lines: budget.lines, isOneOfSeveral: lines.length > 1 }),
      total: shown(yearTotal(line.months)),
      months: line.months.map(({ amount }) => shown(amount)),
      held: line.months.map(({ held }) => held),
    })),
    history: [budget.row.year - 3, budget.row.year - 2, budget.row.year - 1].flatMap((year) => {
      const first = periodOfYear(books.calendar, year, 1);
      if (first === null || books.firstPosted === null || books.lastPosted === null) return [];
      const months = yearByMonth(slab, books.calendar, position, year).map((amount, month) =>
        first + month < books.firstPosted! || first + month > books.lastPosted! ? null : shown(amount),
      );
      return months.every((amount) => amount === null) ? [] : [{ year, months }];
    }),
    sign,
  };
}
