import type { Chart } from '../chart/account.ts';
import { type Minor, minor } from '../money/minor.ts';
import { CAPITAL_ROLES, type CashFlowRole, cashFlowRoleOf } from './account-role.ts';
import type { CashFlowPart } from './cash-flow-part.ts';
import { classifyEntry } from './classify-entry.ts';

/** A line of the ledger; `account` is a chart position, `amount` debit positive. */
export type LedgerLine = { readonly account: number; readonly amount: Minor; readonly party: string; readonly document: string };
/** An amount of a part of the statement, shown on `account`; `line` is the ledger line it comes from. */
export type AccountMovement<Line> = {
  readonly line: Line;
  readonly account: number;
  readonly part: CashFlowPart;
  readonly amount: Minor;
};
type Bill<Line> = { readonly asset: Line; left: number };

/** Chart positions whose entries the statement of cash flows reads one by one. */
export function capitalAccounts(chart: Chart): number[] {
  return chart.accounts.flatMap((account, index) => (CAPITAL_ROLES.has(cashFlowRoleOf(account)) ? [index] : []));
}

/** Identifies an open item: the account it is owed on, the party and its document. Null without a document. */
const openItemKey = ({ account, party, document }: LedgerLine): string | null =>
  document === '' ? null : JSON.stringify([account, party, document]);

/**
 * Classifies entries in the order they were posted. An asset bought on credit is a noncash purchase;
 * when a later entry pays the payable with the same party and document, the payment is an investing
 * payment for that asset. A payment that names no document stays among the operating changes.
 * @param entries those that touch capital accounts, and those that pay what such entries owe
 */
export function classifyEntries<Line extends LedgerLine>(chart: Chart, entries: Iterable<readonly Line[]>): AccountMovement<Line>[] {
  const roles = chart.accounts.map(cashFlowRoleOf);
  const movements: AccountMovement<Line>[] = [];
  const bills = new Map<string, Bill<Line>[]>();
  for (const lines of entries) {
    const seen = lines.map((line) => ({ role: roles[line.account]!, amount: line.amount, line }));
    if (seen.some(({ role }) => CAPITAL_ROLES.has(role))) {
      const found = classifyEntry(seen);
      for (const { line, part, amount } of found) movements.push({ line: line.line, account: line.line.account, part, amount });
      rememberBills(found.map(({ line, part, amount }) => ({ role: line.role, line: line.line, part, amount })));
    } else if (seen.some(({ role }) => role === 'cash')) for (const line of lines) payBills(line);
  }
  return movements;

  function rememberBills(
    found: readonly { readonly role: CashFlowRole; readonly line: Line; readonly part: CashFlowPart; readonly amount: Minor }[],
  ): void {
    const assets = found.filter(({ part }) => part === 'noncashCredit');
    const owed = found.filter(({ role, part, amount }) => part === 'operatingChange' && role === 'operatingLiability' && amount > 0);
    const [asset] = [...assets].sort((a, b) => b.amount - a.amount);
    if (!asset) return;
    for (const { line, amount } of owed) {
      const key = openItemKey(line);
      if (key !== null) bills.set(key, [...(bills.get(key) ?? []), { asset: asset.line, left: amount }]);
    }
  }

  function payBills(line: Line): void {
    const key = line.amount > 0 ? openItemKey(line) : null;
    let paid: number = line.amount;
    for (const bill of (key !== null && bills.get(key)) || []) {
      const part = Math.min(paid, bill.left);
      if (part <= 0) continue;
      bill.left -= part;
      paid -= part;
      movements.push({ line, account: line.account, part: 'operatingChange', amount: minor(-part) });
      movements.push({ line, account: bill.asset.account, part: 'investingOut', amount: minor(part) });
    }
  }
}
