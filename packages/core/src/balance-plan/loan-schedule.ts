import { exactProduct } from '../budgets/bases/exact-product.ts';
import { apportion } from '../money/apportion.ts';
import { parseDecimal } from '../money/decimal.ts';
import { type Minor, minor, ZERO } from '../money/minor.ts';
import { roundHalfAway } from '../money/round.ts';

/** How a loan is paid back: in level payments, in equal principal payments, or at maturity. */
export const LOAN_FORMS = { level: 'level payments', straight: 'equal principal payments', atEnd: 'principal at maturity' } as const;
export type LoanForm = keyof typeof LOAN_FORMS;
/** What a schedule follows from, besides the principal: a decimal text of percent a year, and how many monthly payments are left. */
export type LoanTerms = { readonly form: LoanForm; readonly ratePercent: string; readonly payments: number };
/** One month of a schedule. `balance` is what is owed after it; `payment` is interest and principal together. */
export type LoanMonth = { readonly payment: Minor; readonly interest: Minor; readonly principal: Minor; readonly balance: Minor };

/** A twelfth of a year's interest on a balance, rounded half away from zero, exactly. */
const monthlyInterest = (balance: Minor, ratePercent: string): Minor =>
  exactProduct([parseDecimal(String(balance)), parseDecimal(ratePercent)], 1200);

/**
 * The level payment that pays a principal back at the end of each month, rounded half away from zero.
 * Without interest it is the principal over the payments.
 * Source: present value of an ordinary annuity, P = A (1 - (1 + i)^-n) / i.
 * @param payments a whole number above zero
 * @example levelPayment(minor(1000000), { ratePercent: '6', payments: 12 }) // 86066
 */
export function levelPayment(principal: Minor, { ratePercent, payments }: Pick<LoanTerms, 'ratePercent' | 'payments'>): Minor {
  const rate = Number(ratePercent) / 1200;
  return minor(roundHalfAway(rate === 0 ? principal / payments : (principal * rate) / -Math.expm1(-payments * Math.log1p(rate))));
}

/**
 * The schedule of a loan, by month, the first payment a month after the principal was owed. The
 * last payment takes what is left, so that the balance ends at zero to the cent.
 * @param principal minor units, as a positive amount; nothing or less gives an empty schedule
 * @throws RangeError for payments that are no whole number from 1 to 1,200, or a rate that is not 0 or more
 * @example loanSchedule(minor(120000), { form: 'straight', ratePercent: '12', payments: 12 })[0]
 * // { payment: 11200, interest: 1200, principal: 10000, balance: 110000 }
 */
export function loanSchedule(principal: Minor, terms: LoanTerms): LoanMonth[] {
  const { form, ratePercent, payments } = terms;
  if (!Number.isInteger(payments) || payments < 1 || payments > 1200)
    throw new RangeError(`a loan is paid in 1 to 1,200 months, not ${payments}`);
  if (!(Number(ratePercent) >= 0)) throw new RangeError(`"${ratePercent}" is not a rate of 0% or more`);
  if (principal <= 0) return [];
  const level = form === 'level' ? levelPayment(principal, terms) : ZERO;
  const straight = form === 'straight' ? apportion(principal, new Array<number>(payments).fill(1)) : [];
  const months: LoanMonth[] = [];
  let balance = principal;
  for (let month = 0; month < payments; month += 1) {
    const interest = monthlyInterest(balance, ratePercent);
    const isLast = month === payments - 1;
    const paid = isLast ? balance : form === 'level' ? Math.min(balance, level - interest) : (straight[month] ?? 0);
    balance = minor(balance - paid);
    months.push({ payment: minor(interest + paid), interest, principal: minor(paid), balance });
  }
  return months;
}
