import type { ReportColumnDto, ReportDto, ReportKey, ReportRowDto } from '@wise-margin/contract';
import { type CountedLines, type DimensionFilter, readRange, type ReportRange } from '@wise-margin/core';
import { rangeIssueWords, rangeWords } from '@wise-margin/presentation';

import type { Books, BooksCache } from '../../companies/index.ts';
import type { Database } from '../../database/database.ts';
import type { ScenarioCache } from '../../evaluation/index.ts';
import { refused } from '../../http/problem.ts';
import { lineFilter } from '../entries/line-filter.ts';

/** A report whose rows are made as they are asked for. */
export type Report = Omit<ReportDto, 'rows' | 'next'> & {
  readonly key: ReportKey;
  readonly rows: (from: number, to: number) => Promise<ReportRowDto[]>;
  /** runs of rows that have a sheet or a page of their own; null keeps them together */
  readonly parts: readonly { readonly name: string; readonly from: number; readonly to: number }[] | null;
};
/** A report with all of its rows, as a worker writes it. */
export type WholeReport = Pick<Report, 'title' | 'words' | 'columns' | 'notes' | 'unit' | 'parts'> & {
  readonly company: string;
  readonly exponent: number;
  readonly rows: readonly ReportRowDto[];
};
/** What reports are made from. */
export type ReportSources = {
  readonly database: Database;
  readonly booksCache: BooksCache;
  readonly scenarios: ScenarioCache;
  readonly now: () => Date;
};

/** A report of rows that are all there. */
export const withRows = (report: Omit<Report, 'rows' | 'count' | 'parts'>, rows: readonly ReportRowDto[]): Report => ({
  ...report,
  count: rows.length,
  rows: (from, to) => Promise.resolve(rows.slice(from, to)),
  parts: null,
});

type Asked = { readonly range: string; readonly filter: DimensionFilter; readonly drafts: 'yes' | 'no' };

/** The range typed, the lines that count, and both in words. @throws ProblemError 422 for a range or filter that cannot be taken */
export function askedOf(
  books: Books,
  { range: typed, filter, drafts }: Asked,
): { range: ReportRange; counted: CountedLines; words: string[] } {
  const read = readRange(typed, books.calendar, books.lastActual);
  if (!read.ok) throw refused(rangeIssueWords(read.issue, books.calendar), 'range');
  const counted = { drafts: drafts === 'yes', ...lineFilter(books, filter) };
  const words = [
    rangeWords(books.calendar, read.range),
    ...Object.entries(filter).map(([name, values]) => `${name}: ${values.map((value) => value || 'none').join(', ')}`),
    ...(counted.drafts ? ['draft entries included'] : []),
  ];
  return { range: read.range, counted, words };
}

export const text = (key: string, heading: string): ReportColumnDto => ({ key, heading, kind: 'text', scenario: null });
export const date = (key: string, heading: string): ReportColumnDto => ({ key, heading, kind: 'date', scenario: null });
export const amount = (key: string, heading: string, scenario: ReportColumnDto['scenario'] = null): ReportColumnDto => ({
  key,
  heading,
  kind: 'amount',
  scenario,
});
export const UNIT_WORDS = { cents: '', dollars: '', thousands: 'thousands of ', millions: 'millions of ' } as const;
export const currencyWords = (books: Books, unit: ReportDto['unit']): string => `${UNIT_WORDS[unit]}${books.currency.words}`;
