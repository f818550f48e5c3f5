import { type Fraction, fraction, NO_FRACTION } from '../../money/fraction.ts';
import type { Minor } from '../../money/minor.ts';
import type { SpreadContext } from '../spread.ts';

/** Twelve months of an earlier fiscal year, debit positive; null where nothing is posted yet or the ledger begins later. */
export type HistoryMonths = readonly (Minor | null)[];

/** How history is read. */
export type HistoryReading = {
  /** months not posted yet taken from the approved budget of their year */
  readonly projected: boolean;
  /** nonrecurring items included */
  readonly includeNonrecurring: boolean;
};

/** What a basis may draw on, for one account and slice in one budget year. Lists of months run over the fiscal year. */
export type BasisContext = Omit<SpreadContext, 'year' | 'lines'> & {
  /** turns debit positive amounts into the account's shown sign */
  readonly sign: 1 | -1;
  /** the months of an earlier year; read without nonrecurring items and as posted by default */
  readonly year: (year: number, reading?: HistoryReading) => HistoryMonths;
  /** the last posted months in order of time, at most `count`, the newest last */
  readonly latest: (count: number, reading?: HistoryReading) => readonly Minor[];
  /** a statistic by month of the budget year; null in months without one */
  readonly driver: (series: string) => readonly (number | null)[];
  /**
   * what other lines of the budget hold together by month, in their own shown sign; null when there is no such line
   * @param wholeCompany those of every slice, not of the line's own alone
   */
  readonly lines: (accounts: string, wholeCompany?: boolean) => readonly Minor[] | null;
  /** the lines of the account in the budget, this one among them, in a fixed order. Absent where a line is looked at alone. */
  readonly siblings?: () => readonly Sibling[];
  /**
   * contexts of all lines of the account that share a basis, in a fixed order, with the place of this one: their
   * months are rounded together. Absent where a line is looked at alone.
   */
  readonly alike?: (basis: object) => { readonly contexts: readonly BasisContext[]; readonly own: number };
};

/** A line of the same account, by what its slice is called. */
export type Sibling = {
  readonly slice: string;
  readonly isOwn: boolean;
  /** amounts of the year a budget starts from */
  readonly history: () => readonly number[];
};

/** Why a basis gives no figure for some months. Months count from 0. */
export type BasisIssue =
  | { readonly code: 'noHistory'; readonly years: readonly number[] }
  | { readonly code: 'partOfYear'; readonly year: number; readonly months: number }
  | { readonly code: 'tooFewMonths'; readonly held: number }
  /** a line through years needs two of them with all twelve months */
  | { readonly code: 'fewWholeYears'; readonly whole: readonly number[] }
  | { readonly code: 'noDriver'; readonly series: string; readonly months: readonly number[] }
  | { readonly code: 'noLine'; readonly accounts: string }
  /** the lines a percentage is of hold nothing in any month */
  | { readonly code: 'zeroLine'; readonly accounts: string }
  /** the lines a total takes the shape of are not there or hold nothing, so that it is spread evenly */
  | { readonly code: 'noShape'; readonly accounts: string }
  /** weights name slices the account has no line of */
  | { readonly code: 'noSlice'; readonly slices: readonly string[]; readonly known: readonly string[] }
  /** nothing weighs, so that lines share equally */
  | { readonly code: 'noWeights'; readonly by: 'history' | 'weights' }
  | { readonly code: 'notANumber'; readonly field: string; readonly text: string };
/** Amounts before rounding and limits, debit positive, in exact minor units. */
export type Derived = { readonly months: readonly Fraction[]; readonly issues: readonly BasisIssue[] };

/** A way to derive a year: its figures, and its words after which the common parts follow. */
export type BasisDefinition<Of> = {
  readonly derive: (basis: Of, context: BasisContext) => Derived;
  readonly words: (basis: Of, tell: Tell) => string;
};
/** How amounts and months (0 to 11 of the fiscal year) are written in a sentence. */
export type Tell = { readonly amount: (amount: Minor) => string; readonly month: (month: number) => string };

export const MONTHS = [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11] as const;
export const NOTHING: readonly Fraction[] = MONTHS.map(() => NO_FRACTION);
/** Whole amounts as they are derived. */
export const wholeMonths = (months: readonly number[]): Fraction[] => months.map((amount) => fraction(amount));
