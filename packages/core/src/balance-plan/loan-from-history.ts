import type { Minor } from '../money/minor.ts';
import type { BalanceRule } from './balance-rule.ts';

const MONTHS_SEEN = 6;
// level payments are whole cents and so is each month's interest: principal parts stray that far from the curve
const STRAY = 2;

/**
 * The schedule a loan was paid back by in its last six months: level payments, whose principal parts grow by
 * the monthly rate, or in equal principal payments, which imply no rate: they take the usual one.
 * Source: in an annuity the parts of principal grow by 1 + i; n = ln(A / (A - i B)) / ln(1 + i).
 * @param balances owed at month ends, positive, the latest last
 * @param usualRate percent a year that debt as a whole bore
 * @returns null when the months show neither
 */
export function loanFromHistory(balances: readonly Minor[], usualRate: string): (BalanceRule & { readonly kind: 'loan' }) | null {
  const seen = balances.slice(-MONTHS_SEEN - 1);
  const owed = seen.at(-1);
  if (owed === undefined || owed <= 0 || seen.length <= MONTHS_SEEN) return null;
  const parts = seen.slice(1).map((balance, index) => seen[index]! - balance);
  const [first, last] = [parts[0]!, parts.at(-1)!];
  if (parts.some((part) => part <= 0)) return null;
  if (parts.every((part) => part === first))
    return { kind: 'loan', form: 'straight', ratePercent: usualRate, payments: Math.ceil(owed / first) };
  const growth = (last / first) ** (1 / (parts.length - 1));
  const fits = growth > 1 && parts.every((part, index) => Math.abs(part - first * growth ** index) <= STRAY);
  if (!fits) return null;
  const rate = growth - 1;
  const payment = last + rate * seen.at(-2)!;
  const payments = Math.round(Math.log(payment / (payment - rate * owed)) / Math.log(growth));
  const ratePercent = String(Number((rate * 1200).toFixed(2)));
  return payments >= 1 && payments <= 1200 ? { kind: 'loan', form: 'level', ratePercent, payments } : null;
}
