import type { BudgetBooks } from '../budgets/budget-books.ts';
import { firstSlot, type FiscalCalendar, lastSlot, periodAt, type PeriodIndex } from '../calendar/fiscal-calendar.ts';
import { type Chart, incomePositions } from '../chart/account.ts';
import type { AccountClass } from '../chart/account-class.ts';
import type { Slab } from '../ledger/balance-cube.ts';
import { NO_FILTER } from '../ledger/dimension.ts';
import { DAYS_OF, type DaysBase } from './balance-rule.ts';
import type { MonthlyFlow } from './days-of-flow.ts';

const MOST_MONTHS_BACK = 36;
const DAY = 86_400_000;

/**
 * Balances at month ends and income by month, debit positive, by chart position: the ledger's up to the
 * month a plan opens from, then the plan's as it is rolled forward.
 */
export class MonthEndBalances {
  readonly #books: BudgetBooks;
  readonly #ledger: Slab;
  readonly #income = new Map<number, Float64Array>();
  readonly #balances = new Map<number, Float64Array>();
  readonly #flows = new Map<string, MonthlyFlow>();
  /** the last month taken from the ledger; -1 for none */
  readonly opening: number;

  constructor(books: BudgetBooks, opening: number) {
    this.#books = books;
    this.#ledger = books.cube.slab(NO_FILTER);
    this.opening = opening;
  }

  /** Takes in what a month of the plan earns, before its balances are known. */
  earn(period: number, income: Float64Array): void {
    this.#income.set(period, income);
  }

  /** Takes in the balances a month of the plan ends at. */
  close(period: number, balances: Float64Array): void {
    this.#balances.set(period, balances);
  }

  /** An account's balance at the end of a month; null before history and after the last month there is. */
  level(position: number, period: number): number | null {
    const planned = this.#balances.get(period);
    if (planned) return planned[position]!;
    return this.#isPosted(period) ? this.#ledger.closing(position, lastSlot(this.#books.calendar, period as PeriodIndex)) : null;
  }

  /** What an account stands at when the plan opens; zero where nothing is posted before it. */
  opened(position: number): number {
    return this.opening < 0 ? 0 : this.#ledger.closing(position, lastSlot(this.#books.calendar, this.opening as PeriodIndex));
  }

  /** What every income account takes up in a month, by chart position; null where there is no figure. */
  income(period: number): Float64Array | null {
    const known = this.#income.get(period);
    if (known) return known;
    if (!this.#isPosted(period)) return null;
    const amounts = incomeIn(this.#books, this.#ledger, period as PeriodIndex);
    this.#income.set(period, amounts);
    return amounts;
  }

  /** The flows that days of a balance are counted in, the month itself first, as far back as there are figures. */
  flows(base: DaysBase, period: number): MonthlyFlow[] {
    const flows: MonthlyFlow[] = [];
    for (let back = 0; back < MOST_MONTHS_BACK; back += 1) {
      const flow = this.#flow(base, period - back);
      if (flow === null) break;
      flows.push(flow);
    }
    return flows;
  }

  #flow(base: DaysBase, period: number): MonthlyFlow | null {
    const held = this.#flows.get(`${base} ${period}`);
    if (held) return held;
    const income = this.income(period);
    if (income === null) return null;
    const taken = classTotal(this.#books.chart, income, DAYS_OF[base].classes);
    const flow = { amount: base === 'revenue' ? -taken : taken, days: daysIn(this.#books.calendar, period as PeriodIndex) };
    this.#flows.set(`${base} ${period}`, flow);
    return flow;
  }

  #isPosted(period: number): boolean {
    return period >= 0 && period <= this.opening && period >= (this.#books.firstPosted ?? Infinity);
  }
}

/** What every income account takes up in a month of a slab, by chart position, debit positive; zero at every other account. */
export function incomeIn({ chart, calendar }: Pick<BudgetBooks, 'chart' | 'calendar'>, slab: Slab, period: PeriodIndex): Float64Array {
  const amounts = new Float64Array(chart.accounts.length);
  const [from, to] = [firstSlot(calendar, period), lastSlot(calendar, period)];
  for (const position of incomePositions(chart)) amounts[position] = slab.change(position, from, to);
  return amounts;
}

/** What accounts of some classes take up together, debit positive. */
export function classTotal({ accounts }: Chart, amounts: Float64Array, classes: readonly AccountClass[]): number {
  return accounts.reduce((sum, account, position) => (classes.includes(account.class) ? sum + amounts[position]! : sum), 0);
}

function daysIn(calendar: FiscalCalendar, period: PeriodIndex): number {
  const { start, end } = periodAt(calendar, period);
  return (Date.parse(end) - Date.parse(start)) / DAY + 1;
}
