import { compareNaturally } from '../text/compare-naturally.ts';
import type { Account, Chart } from './account.ts';
import type { AccountClass } from './account-class.ts';
import { type CashFlowCategory, cashFlowCategoryOf } from './cashflow.ts';

/** Accounts by any mix of classes, groups, ranges of numbers and single numbers, less exceptions. */
export type AccountSelection = {
  readonly classes?: readonly AccountClass[];
  readonly groups?: readonly string[];
  /** both ends included, compared as numbers when both are, else as text */
  readonly ranges?: readonly { readonly from: string; readonly to: string }[];
  readonly accounts?: readonly string[];
  /** balance-sheet accounts by their cash-flow category */
  readonly cashflows?: readonly CashFlowCategory[];
  readonly except?: AccountSelection;
};

/** Whether single numbers or ranges take an account's number. */
export function selectsNumber({ accounts, ranges }: Pick<AccountSelection, 'accounts' | 'ranges'>, number: string): boolean {
  return (
    (accounts?.includes(number) ?? false) ||
    (ranges?.some(({ from, to }) => compareNaturally(from, number) <= 0 && compareNaturally(number, to) <= 0) ?? false)
  );
}

/** Whether a selection takes an account. An empty selection takes none. */
export function selects(selection: AccountSelection, account: Account): boolean {
  const taken =
    (selection.classes?.includes(account.class) ?? false) ||
    (account.group !== null && (selection.groups?.includes(account.group) ?? false)) ||
    selectsNumber(selection, account.number) ||
    (selection.cashflows !== undefined && selection.cashflows.some((category) => category === cashFlowCategoryOf(account)));
  return taken && !(selection.except && selects(selection.except, account));
}

/** Positions in the chart of the selected accounts, ordered by account number. */
export function selectAccounts(chart: Chart, selection: AccountSelection): number[] {
  return chart.accounts
    .flatMap((account, index) => (selects(selection, account) ? [index] : []))
    .sort((a, b) => compareNaturally(chart.accounts[a]!.number, chart.accounts[b]!.number));
}

/**
 * What a selection names that the chart does not hold, as it was written: single accounts, ranges that
 * take none, groups. Classes and cash-flow categories are no names of a chart and may take none.
 * Exceptions that are not there leave nothing out and are not reported.
 */
export function absentFrom(chart: Chart, selection: AccountSelection): string[] {
  const takesNone = (part: AccountSelection): boolean => !chart.accounts.some((account) => selects(part, account));
  return [
    ...(selection.accounts ?? []).filter((number) => takesNone({ accounts: [number] })),
    ...(selection.ranges ?? []).filter((range) => takesNone({ ranges: [range] })).map(({ from, to }) => `${from}-${to}`),
    ...(selection.groups ?? []).filter((group) => takesNone({ groups: [group] })),
  ];
}
