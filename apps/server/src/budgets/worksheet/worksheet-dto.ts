import { type BudgetDto, type WorksheetDto } from '@wise-margin/contract';
import { type BalanceCube, type BudgetBooks, periodOfYear } from '@wise-margin/core';
import { packFacts, packLine } from '@wise-margin/presentation';

import type { StoredBudget } from '../../budget-store/index.ts';
import type { Books } from '../../companies/index.ts';

/** A budget with all it draws on, for the wire. @throws RangeError for a calendar of weeks, which no company can have yet */
export function worksheetDto(of: {
  readonly books: Books;
  readonly budgetBooks: BudgetBooks;
  readonly budget: StoredBudget;
  readonly described: BudgetDto;
  readonly steps: WorksheetDto['steps'];
}): WorksheetDto {
  const { books, budgetBooks, budget, described, steps } = of;
  const { row } = budget;
  const { pattern, firstYear, lastYear, hasAdjustmentPeriod } = books.calendar;
  if (pattern.kind !== 'months') throw new RangeError('calendars of weeks are not opened yet');
  const first = periodOfYear(books.calendar, row.year, 1)!;
  const pack = (cube: BalanceCube, dimensions: readonly string[]) => packFacts(books.chart, cube.facts, dimensions);
  return {
    budget: described,
    version: row.version,
    lines: budget.lines.map(packLine),
    notes: [...budget.notes],
    steps,
    books: {
      accounts: books.chart.accounts.map((account) => ({ ...account })),
      calendar: { startMonth: pattern.startMonth, firstYear, lastYear, hasAdjustmentPeriod },
      exponent: budgetBooks.exponent,
      firstPosted: books.firstPosted,
      lastActual: books.lastActual,
      actual: pack(books.cube, row.dimensions),
      approved: [...budgetBooks.approved].map(([year, { cube, dimensions }]) => ({
        year,
        dimensions: [...dimensions],
        facts: pack(cube, dimensions),
      })),
      nonrecurring: { entries: pack(books.nonrecurring.entries, row.dimensions), months: [...books.nonrecurring.months] },
      statistics: books.calendar.periods
        .filter(({ year }) => year === row.year || year === row.year - 1)
        .flatMap(({ index }) =>
          books.statistics.figures(index).map((figure) => ({ ...figure, dimensions: { ...figure.dimensions }, period: index - first + 1 })),
        ),
    },
  };
}
