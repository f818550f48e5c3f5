import type { DimensionCombination } from '../ledger/dimension.ts';
import { type Minor, minor } from '../money/minor.ts';
import type { Basis } from './basis.ts';

/**
 * One month of a budget line, debit positive. A held month was entered by a person and stays until it is
 * released; `fromTotal` marks one that a total over several months gave, which the next such total replaces.
 */
export type BudgetMonth = { readonly amount: Minor; readonly held: boolean; readonly fromTotal?: true };

/** Whether a month stands as another does: its amount, whether it is held, and whether a total gave it. */
export const isSameMonth = (a: BudgetMonth, b: BudgetMonth): boolean =>
  a.amount === b.amount && a.held === b.held && a.fromTotal === b.fromTotal;

/** The same months with other amounts. */
export const withAmounts = (months: readonly BudgetMonth[], amounts: readonly Minor[]): BudgetMonth[] =>
  months.map((month, index) => ({ ...month, amount: amounts[index]! }));

/** The year of one account and dimension combination: twelve months, first to last of the fiscal year. */
export type BudgetLine = {
  /** account number */
  readonly account: string;
  readonly dimensions: DimensionCombination;
  readonly basis: Basis;
  readonly months: readonly BudgetMonth[];
};

/** The year's total of a line, debit positive. */
export function yearTotal(months: readonly BudgetMonth[]): number {
  return months.reduce((sum, month) => sum + month.amount, 0);
}

/** The amounts of a line added up whatever their sign; zero without any. */
export function absoluteTotal(months: readonly BudgetMonth[]): number {
  return months.reduce((sum, { amount }) => sum + Math.abs(amount), 0);
}

/** What the lines of one row hold together in a month (0 to 11) or in the year, debit positive; zero without lines. */
export function rowAmount(lines: readonly Pick<BudgetLine, 'months'>[], part: number | 'year'): Minor {
  return minor(lines.reduce((sum, { months }) => sum + (part === 'year' ? yearTotal(months) : months[part]!.amount), 0));
}
