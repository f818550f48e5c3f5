import { signOf } from '../chart/account.ts';
import { apportion } from '../money/apportion.ts';
import { type Minor, minor } from '../money/minor.ts';
import type { StatementPlan } from '../statements/statement-plan.ts';
import type { BudgetBooks, PlacedLine } from './budget-books.ts';
import { rowAmount, yearTotal } from './budget-line.ts';
import type { WorksheetEdit } from './worksheet-edit.ts';

/** What an account would have to become, in its shown sign. */
export type TargetShare = { readonly account: string; readonly from: Minor; readonly to: Minor };
export type TargetProposal = {
  /** target less what the budget has, in the target's own sign */
  readonly gap: Minor;
  readonly shares: readonly TargetShare[];
};

/**
 * A target from above shared out: what is missing to it is spread over chosen accounts by weight, exactly.
 * The budget stays; the proposal is taken or left.
 * @param options.current what the targeted figure is now, in its shown sign
 * @param options.counts +1 when the chosen accounts, as they are shown, add to the target and -1 when they are taken from it
 * @param options.accounts numbers of those chosen
 * @param options.weights one for each of them, none negative; left out, the size of what each holds. All zero share evenly
 */
export function targetProposal(options: {
  readonly books: BudgetBooks;
  readonly lines: Iterable<PlacedLine>;
  readonly current: Minor;
  readonly target: Minor;
  readonly accounts: readonly string[];
  readonly weights?: readonly number[] | null;
  readonly counts: (account: string) => 1 | -1;
}): TargetProposal {
  const { books, lines, current, target, accounts, weights: given, counts } = options;
  const gap = minor(target - current);
  const totals = new Map<string, number>(accounts.map((account) => [account, 0]));
  for (const line of lines) {
    const held = totals.get(line.account);
    if (held !== undefined) totals.set(line.account, held + signOf(books.chart.accounts[line.position]!) * yearTotal(line.months));
  }
  if (accounts.length === 0) return { gap, shares: [] };
  const weights = given ?? accounts.map((account) => Math.abs(totals.get(account)!));
  const parts = apportion(gap, weights.every((weight) => weight === 0) ? weights.map(() => 1) : weights);
  return {
    gap,
    shares: accounts.map((account, index) => {
      const from = minor(totals.get(account)!);
      return { account, from, to: minor(from + counts(account) * parts[index]!) };
    }),
  };
}

/** Whether an account, as it is shown, adds to a line of a statement or is taken from it: profits take what stands in debit. */
export function signInTotal(plan: StatementPlan, lineKey: string, account: string): 1 | -1 {
  const line = plan.lines[plan.lineOfKey.get(lineKey) ?? -1];
  const known = plan.chart.accounts.find(({ number }) => number === account);
  if (!line || !known) return 1;
  const sign = line.source.kind === 'expression' ? -1 : line.sign;
  return signOf(known) === sign ? 1 : -1;
}

/** The edits that take a proposal: each account's year in the shape its months have now. @param amountText an amount as it is typed */
export function editsOfProposal(
  shares: readonly TargetShare[],
  lines: readonly PlacedLine[],
  amountText: (amount: Minor) => string,
): WorksheetEdit[] {
  return shares
    .filter(({ from, to }) => from !== to)
    .map(({ account, to }) => {
      const own = lines.filter((line) => line.account === account);
      const weights = Array.from({ length: 12 }, (_, month) => Math.abs(rowAmount(own, month)));
      return {
        kind: 'year',
        account,
        text: amountText(to),
        spread: weights.some((weight) => weight > 0) ? { by: 'weights', weights } : 'even',
      };
    });
}
