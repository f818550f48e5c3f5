import { isIncomeAccount } from '../chart/account.ts';
import { ACCOUNT_CLASS_KEYS, type AccountClass, classOf, type Polarity } from '../chart/account-class.ts';
import { type Minor, minor } from '../money/minor.ts';
import { amount, type Cell } from '../statements/cell.ts';
import { differenceOf, percentDifferenceOf } from '../variance/difference.ts';
import type { BudgetBooks } from './budget-books.ts';
import { type BudgetLine, yearTotal } from './budget-line.ts';
import { historyMonths } from './line-context.ts';

/** A year beside the budget made from it, in the shown sign of its class. */
export type YearTotals = {
  /** of the year the budget starts from, nonrecurring items included */
  readonly base: Minor;
  /** what of the base is nonrecurring and left out */
  readonly excluded: Minor;
  readonly budget: Minor;
  /** budget less base; with the mark of what helps income */
  readonly change: Cell;
  /** the change as a fraction of the base */
  readonly percent: Cell;
};
export type FirstBudgetTotals = {
  /** classes with an amount on either side, in statement order */
  readonly classes: readonly (YearTotals & { readonly class: AccountClass })[];
  readonly netIncome: YearTotals;
};

/**
 * What a new budget comes to by account class, beside the year it starts from.
 * @param options.projected months of that year that are not posted yet count as its approved budget has them
 */
export function firstBudgetTotals(options: {
  readonly books: BudgetBooks;
  readonly fromYear: number;
  readonly lines: readonly BudgetLine[];
  readonly projected: boolean;
}): FirstBudgetTotals {
  const { books, fromYear, lines, projected } = options;
  const budgetOf = new Map<string, number>();
  for (const line of lines) budgetOf.set(line.account, (budgetOf.get(line.account) ?? 0) + yearTotal(line.months));
  const sums = new Map<AccountClass, { base: number; recurring: number; budget: number }>();
  books.chart.accounts.forEach((account, position) => {
    if (!isIncomeAccount(account)) return;
    const year = (includeNonrecurring: boolean) =>
      historyMonths(books, { position, filter: {}, year: fromYear }, { projected, includeNonrecurring }).reduce<number>(
        (sum, month) => sum + (month ?? 0),
        0,
      );
    const sum = sums.get(account.class) ?? { base: 0, recurring: 0, budget: 0 };
    sum.base += year(true);
    sum.recurring += year(false);
    sum.budget += budgetOf.get(account.number) ?? 0;
    sums.set(account.class, sum);
  });
  const all = { base: 0, recurring: 0, budget: 0 };
  for (const { base, recurring, budget } of sums.values()) {
    all.base += base;
    all.recurring += recurring;
    all.budget += budget;
  }
  const classes = [...sums]
    .filter(([, { base, recurring, budget }]) => base !== 0 || recurring !== 0 || budget !== 0)
    // a chart may list its accounts in any order
    .sort(([a], [b]) => ACCOUNT_CLASS_KEYS.indexOf(a) - ACCOUNT_CLASS_KEYS.indexOf(b));
  return {
    classes: classes.map(([of, sum]) => {
      const { natural, polarity } = classOf(of);
      return { class: of, ...totals(sum, natural === 'debit' ? 1 : -1, polarity) };
    }),
    netIncome: totals(all, -1, 'higherIsBetter'),
  };
}

function totals(
  { base, recurring, budget }: { readonly base: number; readonly recurring: number; readonly budget: number },
  sign: 1 | -1,
  polarity: Polarity,
): YearTotals {
  // 0 times -1 is -0, which would show
  const shown = (value: number): Minor => minor(sign * value || 0);
  const [left, right] = [amount(shown(base)), amount(shown(budget))];
  return {
    base: shown(base),
    excluded: shown(base - recurring),
    budget: shown(budget),
    change: differenceOf(right, left, polarity),
    percent: percentDifferenceOf(right, left),
  };
}
