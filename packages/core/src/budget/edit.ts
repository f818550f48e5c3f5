import { apportion } from '../money/apportion.ts';
import { minor, type Minor } from '../money/minor.ts';
import { deriveMonths, type Basis } from './basis.ts';
import { yearTotal, type BudgetLine, type BudgetMonth } from './budget-line.ts';
import type { BasisContext } from './bases/basis-context.ts';
import { spreadTotal, type Spread } from './spread.ts';

/** A change of one or several lines standing in one row of the grid. Amounts are debit positive, for the row as a whole. */
export type BudgetEdit =
  | { readonly kind: 'month'; readonly month: number; readonly amount: Minor }
  | { readonly kind: 'year'; readonly amount: Minor; readonly spread: Spread }
  /** a total over some months, such as a quarter or the rest of the year */
  | { readonly kind: 'span'; readonly months: readonly number[]; readonly amount: Minor; readonly spread: Spread }
  | { readonly kind: 'release'; readonly months: readonly number[] }
  | { readonly kind: 'basis'; readonly basis: Basis };

/** Bases that give each line its own figures out of its own history, or out of lines beside it. */
const BASES_OF_EACH_LINE: readonly Basis['kind'][] = [
  'sameMonths',
  'yearTotal',
  'averageYears',
  'latestMonths',
  'trend',
  'percentOf',
  'typed',
];
const isOfEachLine = (basis: Basis): boolean =>
  BASES_OF_EACH_LINE.includes(basis.kind) && !(basis.kind === 'sameMonths' && (basis.changeAmount ?? 0) !== 0);

/** A line with the history its spread follows. */
export type EditedLine = { readonly line: BudgetLine; readonly context: BasisContext };
export type EditResult =
  | { readonly ok: true; readonly lines: readonly { readonly basis: Basis; readonly months: readonly BudgetMonth[] }[] }
  | { readonly ok: false; readonly code: 'allMonthsHeld' | 'noLines' | 'severalLines' };

/**
 * Applies an edit to the lines of a row and returns their new bases and months, in the same order.
 * - A month typed is held; over several lines it is shared in proportion to what they hold that
 *   month, then to their years, then evenly.
 * - A year total typed is spread over the months that are not held; the held ones keep their amounts.
 *   Over several lines, those with a free month share what the others do not take.
 * - A total over a span is spread over its months that are not held, and holds them; over several lines
 *   as a year's is.
 * - A basis set derives the months that are not held. One that names amounts of its own, not of each line's
 *   history, is for a single line.
 * - Released months go back to what the basis gives.
 * The row always adds up to the amount typed.
 */
export function editBudget(edited: readonly EditedLine[], edit: BudgetEdit): EditResult {
  if (edited.length === 0) return { ok: false, code: 'noLines' };
  switch (edit.kind) {
    case 'month': {
      const shares = shareAmong(
        edit.amount,
        edited.map(({ line }) => [line.months[edit.month]!.amount, yearTotal(line.months)]),
      );
      return {
        ok: true,
        lines: edited.map(({ line }, position) => ({
          basis: line.basis,
          months: line.months.map((month, index) => (index === edit.month ? { amount: shares[position]!, held: true } : month)),
        })),
      };
    }
    case 'year': {
      const open = edited.filter(({ line }) => line.months.some((month) => !month.held));
      if (open.length === 0) return { ok: false, code: 'allMonthsHeld' };
      const closed = edited.filter((each) => !open.includes(each)).reduce((sum, { line }) => sum + yearTotal(line.months), 0);
      const shares = shareAmong(
        minor(edit.amount - closed),
        open.map(({ line }) => [yearTotal(line.months)]),
      );
      return {
        ok: true,
        lines: edited.map((each) => {
          const position = open.indexOf(each);
          if (position < 0) return each.line;
          return rederived(each, { kind: 'typedTotal', total: shares[position]!, spread: edit.spread }, each.line.months);
        }),
      };
    }
    case 'span': {
      const { months } = edit;
      const isFree = ({ line }: EditedLine) => months.some((month) => !line.months[month]!.held);
      const open = edited.filter(isFree);
      if (open.length === 0) return { ok: false, code: 'allMonthsHeld' };
      const within = ({ line }: EditedLine, counts: (month: BudgetMonth) => boolean) =>
        months.reduce((sum, month) => sum + (counts(line.months[month]!) ? line.months[month]!.amount : 0), 0);
      const closed = edited.filter((each) => !isFree(each)).reduce((sum, each) => sum + within(each, () => true), 0);
      const shares = shareAmong(
        minor(edit.amount - closed),
        open.map((each) => [within(each, () => true), yearTotal(each.line.months)]),
      );
      return {
        ok: true,
        lines: edited.map((each) => {
          const position = open.indexOf(each);
          if (position < 0) return each.line;
          const free = months.filter((month) => !each.line.months[month]!.held);
          const rest = minor(shares[position]! - within(each, ({ held }) => held));
          const given = spreadTotal(rest, edit.spread, { months: free, context: each.context });
          return {
            basis: each.line.basis,
            months: each.line.months.map((month, index) =>
              free.includes(index) ? { amount: given[free.indexOf(index)]!, held: true } : month,
            ),
          };
        }),
      };
    }
    case 'basis': {
      if (edited.length > 1 && !isOfEachLine(edit.basis)) return { ok: false, code: 'severalLines' };
      return { ok: true, lines: edited.map((each) => rederived(each, edit.basis, each.line.months)) };
    }
    case 'release':
      return {
        ok: true,
        lines: edited.map((each) =>
          rederived(
            each,
            each.line.basis,
            each.line.months.map((month, index) => (edit.months.includes(index) ? { ...month, held: false } : month)),
          ),
        ),
      };
  }
}

function rederived({ context }: EditedLine, basis: Basis, months: readonly BudgetMonth[]) {
  const held = new Map(months.flatMap((month, index) => (month.held ? [[index, month.amount] as const] : [])));
  const amounts = deriveMonths(basis, context, held);
  return { basis, months: amounts.map((amount, index) => ({ amount, held: held.has(index) })) };
}

/** Shares by the first weights that are not all zero, by their size; evenly when none are. */
function shareAmong(total: Minor, weightChoices: readonly (readonly number[])[]): Minor[] {
  const choices = weightChoices[0]!.length;
  for (let choice = 0; choice < choices; choice += 1) {
    const weights = weightChoices.map((each) => Math.abs(each[choice]!));
    if (weights.some((weight) => weight > 0)) return apportion(total, weights);
  }
  return apportion(
    total,
    weightChoices.map(() => 1),
  );
}
