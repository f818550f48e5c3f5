import { apportion, apportionWhole } from '../money/apportion.ts';
import { type Minor, minor } from '../money/minor.ts';
import type { BasisContext } from './bases/basis-context.ts';
import { type Basis, deriveMonths } from './basis.ts';
import { sliceKey } from './budget-books.ts';
import { type BudgetLine, type BudgetMonth, withAmounts, yearTotal } from './budget-line.ts';
import { type Spread, spreadTotal } from './spread.ts';

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
 * - A total over a span is spread over its months that are not held by hand, and holds them; a total
 *   entered again replaces what the one before it gave. Over several lines it is shared as a year's is.
 * - Lines share in proportion to what they hold; one at zero takes its share by the history it starts from.
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
        edited.map(({ line, context }) => [
          { now: line.months[edit.month]!.amount, history: context.history[edit.month] ?? 0 },
          yearOf(line, context),
        ]),
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
        open.map(({ line, context }) => [yearOf(line, context)]),
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
      const isOpen = (month: BudgetMonth): boolean => !month.held || month.fromTotal === true;
      const isFree = ({ line }: EditedLine) => months.some((month) => isOpen(line.months[month]!));
      const open = edited.filter(isFree);
      if (open.length === 0) return { ok: false, code: 'allMonthsHeld' };
      const within = ({ line }: EditedLine, counts: (month: BudgetMonth) => boolean) =>
        months.reduce((sum, month) => sum + (counts(line.months[month]!) ? line.months[month]!.amount : 0), 0);
      const closed = edited.filter((each) => !isFree(each)).reduce((sum, each) => sum + within(each, () => true), 0);
      // what the months entered by hand hold is each line's own; the rest of the total is shared
      const byHand = open.reduce((sum, each) => sum + within(each, (month) => !isOpen(month)), 0);
      const shares = shareAmong(
        minor(edit.amount - closed - byHand),
        open.map((each) => [
          { now: within(each, isOpen), history: months.reduce((sum, month) => sum + (each.context.history[month] ?? 0), 0) },
          yearOf(each.line, each.context),
        ]),
      );
      return {
        ok: true,
        lines: edited.map((each) => {
          const position = open.indexOf(each);
          if (position < 0) return each.line;
          const free = months.filter((month) => isOpen(each.line.months[month]!));
          const given = spreadTotal(shares[position]!, edit.spread, { months: free, context: each.context });
          return {
            basis: each.line.basis,
            months: each.line.months.map((month, index) =>
              free.includes(index) ? { amount: given[free.indexOf(index)]!, held: true, fromTotal: true as const } : month,
            ),
          };
        }),
      };
    }
    case 'basis': {
      if (edited.length > 1 && !isOfEachLine(edit.basis)) return { ok: false, code: 'severalLines' };
      return { ok: true, lines: roundedTogether(edited).map((each) => rederived(each, edit.basis, each.line.months)) };
    }
    case 'release':
      return {
        ok: true,
        lines: edited.map((each) =>
          rederived(
            each,
            each.line.basis,
            each.line.months.map((month, index) => (edit.months.includes(index) ? { amount: month.amount, held: false } : month)),
          ),
        ),
      };
  }
}

function rederived({ context }: EditedLine, basis: Basis, months: readonly BudgetMonth[]) {
  const held = new Map(months.flatMap((month, index) => (month.held ? [[index, month.amount] as const] : [])));
  const amounts = deriveMonths(basis, context, held);
  return { basis, months: withAmounts(months, amounts) };
}

/** Lines given one basis, each looked at beside the others of its account, so that they are rounded together. */
function roundedTogether(edited: readonly EditedLine[]): EditedLine[] {
  return edited.map((each) => {
    const of = edited.filter(({ line }) => line.account === each.line.account);
    const inOrder = [...of].sort((a, b) => (sliceKey(a.line.dimensions) < sliceKey(b.line.dimensions) ? -1 : 1));
    const alike = () => ({ contexts: inOrder.map(({ context }) => context), own: inOrder.indexOf(each) });
    return { ...each, context: Object.create(each.context, { alike: { value: alike } }) as BasisContext };
  });
}

/** What a line weighs when a total is shared: what it holds now, and what it was in the history it starts from. */
type Weight = { readonly now: number; readonly history: number };
const yearOf = (line: BudgetLine, { history }: BasisContext): Weight => ({
  now: yearTotal(line.months),
  history: history.reduce((sum, amount) => sum + amount, 0),
});
// below this part of its history a row is too small to hold a proportion, such as after a slipped key
const TOO_SMALL = 100;

/**
 * The weights of a row's lines: what they hold, a line at zero by its history in the same proportion. Where
 * the row as a whole is nothing beside its history, history alone. All zero where there is neither.
 */
function weightsOf(weights: readonly Weight[]): bigint[] {
  const nows = weights.map(({ now }) => BigInt(Math.abs(now)));
  const histories = weights.map(({ history }) => BigInt(Math.abs(history)));
  const sum = (values: readonly bigint[]) => values.reduce((total, value) => total + value, 0n);
  const past = sum(histories);
  if (sum(nows) * BigInt(TOO_SMALL) < past) return histories;
  const ofHolders = sum(histories.filter((_, index) => nows[index]! > 0n));
  if (ofHolders === 0n) return nows;
  const holders = sum(nows.filter((_, index) => histories[index]! > 0n));
  return nows.map((now, index) => (now > 0n ? now * ofHolders : histories[index]! * holders));
}

/** Shares by the first weights that are not all zero; evenly when none are. */
function shareAmong(total: Minor, weightChoices: readonly (readonly Weight[])[]): Minor[] {
  const choices = weightChoices[0]!.length;
  for (let choice = 0; choice < choices; choice += 1) {
    const weights = weightsOf(weightChoices.map((each) => each[choice]!));
    if (weights.some((weight) => weight > 0n)) return apportionWhole(total, weights);
  }
  return apportion(
    total,
    weightChoices.map(() => 1),
  );
}
