import { type Account, type Chart, signOf } from '../chart/account.ts';
import type { AccountClass } from '../chart/account-class.ts';
import { minor } from '../money/minor.ts';
import type { BalanceRule, DaysBase } from './balance-rule.ts';
import { loanFromHistory } from './loan-from-history.ts';
import { classTotal, type MonthEndBalances } from './month-end-balances.ts';

const YEAR = 12;
/** The flow that the days of a class are counted in unless one chooses another. */
export const USUAL_BASE = { receivables: 'revenue', inventory: 'costOfSales', payables: 'costs' } as const satisfies Partial<
  Record<AccountClass, DaysBase>
>;
export type DaysClass = keyof typeof USUAL_BASE;
export const DAYS_CLASSES = Object.keys(USUAL_BASE) as readonly DaysClass[];

/** Balances of an account at the last month ends of the ledger, the latest last, in its shown sign; fewer where history is shorter. */
function latestLevels(levels: MonthEndBalances, position: number, account: Account): number[] {
  return Array.from({ length: YEAR + 1 }, (_, index) => levels.level(position, levels.opening - YEAR + index)).flatMap((level) =>
    level === null ? [] : [level * signOf(account)],
  );
}

/** The account of a class with the largest balance, the first of equal ones; null when the class has none. */
function leadOf(chart: Chart, levels: MonthEndBalances, of: AccountClass): number | null {
  return chart.accounts.reduce<number | null>((lead, account, position) => {
    if (account.class !== of) return lead;
    return lead === null || Math.abs(levels.opened(position)) > Math.abs(levels.opened(lead)) ? position : lead;
  }, null);
}

/** The months of the fiscal year in which an account that otherwise took up the income tax was cleared; null when it is no such account. */
function taxPaidIn(chart: Chart, levels: MonthEndBalances, position: number): number[] | null {
  const paidIn: number[] = [];
  let taken = 0;
  for (let period = Math.max(1, levels.opening - YEAR + 1); period <= levels.opening; period += 1) {
    const [before, after] = [levels.level(position, period - 1), levels.level(position, period)];
    const income = levels.income(period);
    if (before === null || after === null || income === null) return null;
    const tax = chart.accounts.reduce((sum, account, at) => (account.class === 'incomeTax' ? sum + income[at]! : sum), 0);
    if (tax !== 0 && after === before - tax) taken += 1;
    else if (after === 0 && before !== 0) paidIn.push(period % YEAR);
    else if (after !== before - tax) return null;
  }
  return taken >= 3 ? paidIn.sort((a, b) => a - b) : null;
}

/** What all debt together bore in the last twelve months, in percent a year to two decimals: interest expensed over what was owed at each month's start. */
function rateOfDebt(chart: Chart, levels: MonthEndBalances): string {
  let interest = 0;
  let owed = 0;
  for (let period = levels.opening - YEAR + 1; period <= levels.opening; period += 1) {
    const income = levels.income(period);
    if (income === null) continue;
    interest += classTotal(chart, income, ['interestExpense']);
    chart.accounts.forEach((account, position) => {
      if (account.class === 'shortTermDebt' || account.class === 'longTermDebt') owed -= levels.level(position, period - 1) ?? 0;
    });
  }
  return owed > 0 && interest > 0 ? String(Number(((interest / owed) * 1200).toFixed(2))) : '0';
}

/**
 * How an account may be expected to move, from the last twelve months of the ledger: days of a flow for
 * receivables, inventory and payables; loans on the schedule they were paid by; income tax cleared in the
 * months it was; depreciation accumulated; seasonal balances as in the prior year; others do not change.
 */
export function ruleFromHistory(chart: Chart, levels: MonthEndBalances, position: number): BalanceRule {
  const account = chart.accounts[position]!;
  const latest = latestLevels(levels, position, account);
  const hasMoved = latest.some((level) => level !== latest[0]);
  const seasonal: BalanceRule = hasMoved ? { kind: 'levelOfLastYear', change: '0' } : { kind: 'stays' };
  const drifting: BalanceRule = hasMoved ? { kind: 'movementOfLastYear', change: '0' } : { kind: 'stays' };
  const base: DaysBase | undefined = USUAL_BASE[account.class as DaysClass];
  if (base) {
    // an allowance stands against its class and does not follow the trade
    if (latest.some((level) => level < 0)) return drifting;
    return latest.some((level) => level > 0) ? { kind: 'daysOf', of: base, days: 'history' } : { kind: 'stays' };
  }
  switch (account.class) {
    case 'cash':
      return leadOf(chart, levels, 'cash') === position ? { kind: 'rest' } : { kind: 'stays' };
    case 'fixedAssets':
      return { kind: 'purchases', items: [] };
    case 'accumulatedDepreciation':
      return leadOf(chart, levels, 'accumulatedDepreciation') === position ? { kind: 'depreciation' } : { kind: 'stays' };
    case 'shortTermDebt':
    case 'longTermDebt':
      return (
        loanFromHistory(
          latest.map((level) => minor(level)),
          rateOfDebt(chart, levels),
        ) ?? (account.class === 'shortTermDebt' ? seasonal : drifting)
      );
    case 'otherCurrentLiabilities': {
      const paidIn = taxPaidIn(chart, levels, position);
      return paidIn ? { kind: 'tax', paidIn } : seasonal;
    }
    case 'otherCurrentAssets':
      return seasonal;
    case 'otherAssets':
    case 'otherLiabilities':
    case 'dividends':
      return drifting;
    default:
      return { kind: 'stays' };
  }
}
