import { signOf } from '../chart/account.ts';
import { fraction, multiplyFractions, roundFraction } from '../money/fraction.ts';
import { type Minor, minor } from '../money/minor.ts';
import type { Basis } from './basis.ts';
import type { PlacedLine } from './budget-books.ts';
import { rowAmount } from './budget-line.ts';
import type { BudgetWorksheet } from './worksheet.ts';

/** What an account comes to where each of its lines takes a percentage of the whole company. Amounts in the shown sign. */
export type WholeAccount = {
  readonly total: Minor;
  readonly base: Minor;
  /** of the base, in tenths of a percent, half away from zero */
  readonly permille: number;
};

/**
 * What the whole account comes to beside its base. Null unless the basis is a percentage of the company for each
 * line, and where the base is zero.
 */
export function wholeAccount(worksheet: BudgetWorksheet, line: PlacedLine, basis: Basis): WholeAccount | null {
  if (basis.kind !== 'percentOf' || !basis.wholeCompany || basis.shared) return null;
  const base = minor((worksheet.contextOf(line).lines(basis.accounts, true) ?? []).reduce<number>((sum, amount) => sum + amount, 0));
  if (base === 0) return null;
  const total = minor(signOf(worksheet.accountAt(line.position)) * rowAmount(worksheet.linesOf(line.position, {}), 'year'));
  return { total, base, permille: roundFraction(multiplyFractions(fraction(total), fraction(1000, base))) };
}
