import type { BudgetChangeDto } from '@wise-margin/contract';
import { minor, monthOfYearName, signOf } from '@wise-margin/core';

import type { LoggedChange } from '../../budget-store/index.ts';
import type { Books } from '../../companies/index.ts';

const MOST_CELLS_TOLD = 100;

/** A change for the history: what, who, when, and the old and new value of each amount in the shown sign; beyond a hundred they are counted. */
export function changeDto(books: Books, year: number, change: LoggedChange): BudgetChangeDto {
  const { id, at, actor, words, kind, isUndone } = change;
  return { id, at, actor, words, kind, isUndone, ...changedAmounts(books, year, change.lines) };
}

/** The amounts that differ between lines as they were and are; beyond a hundred they are counted. */
export function changedAmounts(books: Books, year: number, lines: LoggedChange['lines']): Pick<BudgetChangeDto, 'cells' | 'more'> {
  const cells = lines.flatMap(({ before, after }) => {
    const sign = signOf(books.chart.accounts[after.position]!);
    const slice = Object.values(after.dimensions).join(', ');
    return after.months.flatMap((month, index) => {
      const was = before?.months[index]!.amount ?? null;
      if (was === month.amount) return [];
      const from = was === null ? null : minor(sign * was);
      return [{ account: after.account, slice, month: monthOfYearName(books.calendar, year, index), from, to: minor(sign * month.amount) }];
    });
  });
  return { cells: cells.slice(0, MOST_CELLS_TOLD), more: Math.max(0, cells.length - MOST_CELLS_TOLD) };
}
