import { type PeriodIndex, PERIODS_PER_YEAR } from '../calendar/fiscal-calendar.ts';
import { type Minor, minor, ZERO } from '../money/minor.ts';
import type { BalanceRule } from './balance-rule.ts';
import { type LoanMonth, loanSchedule } from './loan-schedule.ts';

const NOTHING: LoanMonth = { payment: ZERO, interest: ZERO, principal: ZERO, balance: ZERO };
const plus = (a: LoanMonth, b: LoanMonth): LoanMonth => ({
  payment: minor(a.payment + b.payment),
  interest: minor(a.interest + b.interest),
  principal: minor(a.principal + b.principal),
  balance: minor(a.balance + b.balance),
});

/**
 * What is paid and owed on a loan account in each month of a plan: its opening balance on the rule's
 * schedule from the next month on, and what is drawn on a schedule of its own, as long, from the month
 * after it is drawn. An amount is drawn at the end of its month.
 * @param at.owed what the account owes when the plan opens, as a positive amount
 * @param at.opening the month it opens from; the months after it, to the end of the year that begins with `at.first`, are given
 * @returns by period
 */
export function loanBook(
  rule: BalanceRule & { readonly kind: 'loan' },
  at: { readonly owed: Minor; readonly opening: number; readonly first: PeriodIndex },
): ReadonlyMap<number, LoanMonth> {
  const { owed, opening, first } = at;
  const months = first + PERIODS_PER_YEAR - 1 - opening;
  const book = new Map<number, LoanMonth>();
  const old = loanSchedule(owed, rule);
  for (let month = 1; month <= months; month += 1) book.set(opening + month, old[month - 1] ?? NOTHING);
  if (!rule.drawn) return book;
  const drawnIn = first + rule.drawn.month;
  loanSchedule(rule.drawn.amount, rule).forEach((month, index) => {
    const period = drawnIn + 1 + index;
    const held = book.get(period);
    if (held) book.set(period, plus(held, month));
  });
  const held = book.get(drawnIn);
  // what was drawn raises the balance and is no payment
  if (held) book.set(drawnIn, { ...held, balance: minor(held.balance + rule.drawn.amount) });
  return book;
}
