import type { AccountClass } from '../chart/account-class.ts';
import { isIncomeAccount, type Chart } from '../chart/account.ts';
import { firstSlot, lastSlot, periodOfYear, PERIODS_PER_YEAR, type FiscalCalendar } from '../calendar/fiscal-calendar.ts';
import type { Slab } from '../ledger/balance-cube.ts';
import type { DimensionCombination } from '../ledger/dimension.ts';
import { minor, type Minor } from '../money/minor.ts';
import { basisContext } from './bases/empty-context.ts';
import { deriveMonths, type Basis } from './basis.ts';
import type { BudgetLine } from './budget-line.ts';

/** Percent changes as decimal texts: one for all classes, and those of single classes instead. */
export type BudgetChanges = { readonly all: string; readonly byClass?: Partial<Readonly<Record<AccountClass, string>>> };

/** The twelve months of an account in a fiscal year, debit positive; the adjustment period counts with the last. Outside the calendar: zeros. */
export function yearByMonth(slab: Slab, calendar: FiscalCalendar, account: number, year: number): Minor[] {
  return Array.from({ length: PERIODS_PER_YEAR }, (_, month) => {
    const period = periodOfYear(calendar, year, month + 1);
    return period === null ? minor(0) : slab.change(account, firstSlot(calendar, period), lastSlot(calendar, period));
  });
}

/**
 * A year's budget from the same months of another year's actuals, changed by percent and rounded:
 * one line for every income account and slice that has an amount in the base year.
 * @param slices the dimension combinations the budget is kept by, each with its slab
 */
export function budgetFromHistory(options: {
  readonly chart: Chart;
  readonly calendar: FiscalCalendar;
  readonly fromYear: number;
  readonly changes: BudgetChanges;
  readonly roundTo: Minor;
  readonly slices: readonly { readonly dimensions: DimensionCombination; readonly slab: Slab }[];
}): BudgetLine[] {
  const { chart, calendar, fromYear, changes, roundTo, slices } = options;
  const lines: BudgetLine[] = [];
  chart.accounts.forEach((account, index) => {
    if (!isIncomeAccount(account)) return;
    for (const { dimensions, slab } of slices) {
      const history = yearByMonth(slab, calendar, index, fromYear);
      if (history.every((amount) => amount === 0)) continue;
      const basis: Basis = { kind: 'sameMonths', year: fromYear, changePercent: changes.byClass?.[account.class] ?? changes.all, roundTo };
      const months = deriveMonths(basis, basisContext({ history, year: () => history }), new Map()).map((amount) => ({
        amount,
        held: false,
      }));
      lines.push({ account: account.number, dimensions, basis, months });
    }
  });
  return lines;
}
