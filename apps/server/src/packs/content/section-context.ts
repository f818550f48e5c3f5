import type { StatementQuery } from '@wise-margin/contract';
import { type DimensionFilter, longPeriodName, periodAt, type SectionDate } from '@wise-margin/core';
import { dayWords } from '@wise-margin/presentation';

import type { BudgetStore } from '../../budget-store/index.ts';
import type { BudgetReview } from '../../budgets/index.ts';
import type { Books, BooksCache, LogoStore } from '../../companies/index.ts';
import type { Actor } from '../../database/audit.ts';
import type { Database } from '../../database/database.ts';
import type { Explainer, FindingList, FindingRecords } from '../../findings/index.ts';
import type { ReportService } from '../../ledger/index.ts';
import type { StatementService } from '../../statements/index.ts';

/** What sections are filled from. */
export type SectionSources = {
  readonly database: Database;
  readonly booksCache: BooksCache;
  readonly statements: StatementService;
  readonly reports: ReportService;
  readonly findingList: FindingList;
  readonly findingRecords: FindingRecords;
  readonly explainer: Explainer;
  readonly budgetStore: BudgetStore;
  readonly budgetReview: BudgetReview;
  readonly logos: LogoStore;
  readonly actor: Actor;
};

/** A section's company, dates and slice. */
export type SectionContext = {
  readonly books: Books;
  readonly date: SectionDate;
  /** what a pack of one department keeps to; empty for the whole company */
  readonly slice: DimensionFilter;
};

export const monthKey = ({ books, date }: SectionContext): string => periodAt(books.calendar, date.asOf).key;

/** A query for a statement at a section's date. */
export const statementQuery = (context: SectionContext, filter: DimensionFilter = {}): StatementQuery => ({
  asOf: monthKey(context),
  filter: Object.fromEntries(Object.entries({ ...filter, ...context.slice }).map(([name, values]) => [name, [...values]])),
});

/** The date of a section in words: `Oct 2026`, `Quarter to date, Oct 2026`, `As of the meeting, Nov 18, 2026`. */
export function sectionDateWords({ books, date }: SectionContext, isOfOneDay: boolean): string {
  if (date.isDay) return `As of the meeting, ${dayWords(date.to)}`;
  const month = longPeriodName(books.calendar, date.asOf);
  if (isOfOneDay) return `As of ${dayWords(date.to)}`;
  return date.isQuarter ? `Quarter to date, ${month}` : month;
}
