import { type Chart, isIncomeAccount } from '../chart/account.ts';
import type { LineTable } from '../ledger/line-table.ts';
import { type Minor, minor } from '../money/minor.ts';
import { accountMovements, type CountedLines, countsLine, isBeforeYear, type Movement, placeIn } from './account-movements.ts';
import type { ReportRange } from './read-range.ts';

/** An account over a range, line by line; balances debit positive. */
export type DetailedAccount = Movement & {
  /** chart position */
  readonly account: number;
  /** positions in the table, in order of date */
  readonly lines: Int32Array;
  /** the balance after each line */
  readonly balances: readonly Minor[];
};

/**
 * The lines of accounts over a range with their running balance, in the order asked for. Income accounts start at zero with
 * their fiscal year and leave closing entries out, as in the trial balance: a running balance ends on its closing balance.
 * @param options.accounts chart positions
 * @param options.idle whether accounts without a line in the range are there too
 */
export function accountDetail(
  table: LineTable,
  options: {
    readonly chart: Chart;
    readonly range: ReportRange;
    readonly counted: CountedLines;
    readonly accounts: readonly number[];
    readonly idle: boolean;
  },
): DetailedAccount[] {
  const { chart, range, counted, accounts, idle } = options;
  const wanted = new Set(accounts);
  const isIncome = chart.accounts.map(isIncomeAccount);
  const { accounts: movements } = accountMovements(table, options);
  const [place, isEarlier, counts] = [placeIn(table, range), isBeforeYear(table, range), countsLine(table, counted)];
  const lines = new Map<number, number[]>(accounts.map((account) => [account, []]));
  for (let position = 0; position < table.count; position += 1) {
    const account = table.account[position]!;
    if (!wanted.has(account) || place(position) !== 0 || !counts(position)) continue;
    if (isIncome[account]! && (isEarlier(position) || table.isClosing(position))) continue;
    lines.get(account)!.push(position);
  }
  return accounts.flatMap((account) => {
    const own = Int32Array.from(lines.get(account)!);
    const moved = movements[account]!;
    if (own.length === 0 && !idle) return [];
    let balance: number = moved.opening;
    const balances = Array.from(own, (position) => minor((balance += table.amount[position]!)));
    return [{ ...moved, account, lines: own, balances }];
  });
}
