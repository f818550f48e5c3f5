import { type Chart, isBalanceAccount } from '../chart/account.ts';
import type { LineTable } from '../ledger/line-table.ts';
import { type Minor, minor } from '../money/minor.ts';
import { type CountedLines, countsLine, placeIn } from './account-movements.ts';
import type { ReportRange } from './read-range.ts';

export type PartyKind = 'customers' | 'vendors';
/** What was sold to a customer, or bought from a vendor, in two ranges; in the sign in which more is more. */
export type PartyActivity = {
  /** position in the list of customers and vendors; -1 for lines without one */
  readonly party: number;
  readonly amount: Minor;
  readonly prior: Minor;
};

/**
 * Sales by customer: the lines of revenue and its deductions that name them. Purchases by vendor: every other line that
 * names them, but for cash and payables; so bills and credits count and payments do not. Lines without a name are one row.
 * @param options.prior null leaves prior amounts at zero
 */
export function partyActivity(
  table: LineTable,
  options: {
    readonly chart: Chart;
    readonly kind: PartyKind;
    readonly range: ReportRange;
    readonly prior: ReportRange | null;
    readonly counted: CountedLines;
  },
): PartyActivity[] {
  const { chart, kind, range, prior, counted } = options;
  const sign = kind === 'customers' ? -1 : 1;
  const isCounted = countedAccounts(chart, kind);
  const counts = countsLine(table, counted);
  const places = [placeIn(table, range), prior ? placeIn(table, prior) : null];
  const sums = new Map<number, [number, number]>();
  for (let position = 0; position < table.count; position += 1) {
    const party = table.party[position]!;
    if (!isCounted[table.account[position]!]! || (kind === 'vendors' && party === -1) || table.isClosing(position) || !counts(position))
      continue;
    places.forEach((place, at) => {
      if (place?.(position) !== 0) return;
      const held = sums.get(party) ?? sums.set(party, [0, 0]).get(party)!;
      held[at]! += sign * table.amount[position]!;
    });
  }
  return [...sums]
    .map(([party, [amount, before]]) => ({ party, amount: minor(amount), prior: minor(before) }))
    .sort((a, b) => b.amount - a.amount || b.prior - a.prior || a.party - b.party);
}

/** Whether lines of an account, by chart position, are sales or purchases. */
function countedAccounts(chart: Chart, kind: PartyKind): boolean[] {
  return chart.accounts.map((account) => {
    const isSale = account.class === 'revenue' || account.class === 'revenueDeductions';
    if (kind === 'customers') return isSale;
    return (
      !isSale &&
      account.class !== 'otherIncome' &&
      !(isBalanceAccount(account) && ['cash', 'payables', 'receivables'].includes(account.class))
    );
  });
}
