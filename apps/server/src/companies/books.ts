import type {
  BalanceCube,
  Chart,
  Currency,
  DimensionCombination,
  DimensionFilter,
  FiscalCalendar,
  LastActual,
  Nonrecurring,
  PeriodIndex,
  StatisticOver,
} from '@wise-margin/core';

import { PARTY, SOURCE } from './further-dimensions.ts';

/** Everything of a company that figures are computed from, held in memory and true to one version of its ledger. */
export type Books = {
  readonly id: number;
  readonly name: string;
  readonly version: number;
  readonly currency: Currency;
  readonly startMonth: number;
  readonly chart: Chart;
  /** account rows of the database, by chart position */
  readonly accountIds: readonly number[];
  readonly calendar: FiscalCalendar;
  /** fiscal years opened, in order; the calendar covers them without a gap */
  readonly years: readonly number[];
  readonly cube: BalanceCube;
  readonly dimensions: readonly { readonly name: string; readonly values: readonly string[] }[];
  readonly combinations: ReadonlyMap<number, DimensionCombination>;
  /** names of customers and vendors, in alphabetical order */
  readonly parties: readonly string[];
  /** source journals of entries, in alphabetical order; '' stands for none */
  readonly sourceJournals: readonly string[];
  readonly statistics: StatisticSeries;
  readonly firstPosted: PeriodIndex | null;
  readonly lastPosted: PeriodIndex | null;
  /** the last month of actuals; never later than the last posted one, and null while nothing is posted */
  readonly lastActual: PeriodIndex | null;
  /** how that month was decided */
  readonly actuals: LastActual;
  /** what bases of budgets leave out of history */
  readonly nonrecurring: Nonrecurring;
};

/** Figures that are not money. */
export type StatisticSeries = {
  /** names of the series, in alphabetical order */
  readonly series: readonly string[];
  /** how a series goes over several months: as a person chose, else as its name and values propose */
  readonly aggregation: (series: string) => StatisticOver;
  /** the sum of the slices that pass a filter; null where there is none */
  readonly value: (series: string, filter: DimensionFilter, period: PeriodIndex) => number | null;
  /** the single figures of a period */
  readonly figures: (period: PeriodIndex) => readonly StatisticFigure[];
};
export type StatisticFigure = { readonly series: string; readonly dimensions: DimensionCombination; readonly value: number };

/** A period in the database: fiscal year and period number, 202707 for FY2027 period 7. */
export const periodCode = (year: number, number: number): number => year * 100 + number;

/** Every dimension a figure can be filtered or broken out by, with its values; '' stands for none. */
export function knownDimensions(books: Books): ReadonlyMap<string, readonly string[]> {
  const dimensions = new Map<string, readonly string[]>(books.dimensions.map(({ name, values }) => [name, values]));
  if (books.parties.length > 0) dimensions.set(PARTY, [...books.parties, '']);
  if (books.sourceJournals.length > 0) dimensions.set(SOURCE, books.sourceJournals);
  return dimensions;
}
