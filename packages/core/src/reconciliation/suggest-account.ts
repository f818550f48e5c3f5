import type { Chart } from '../chart/account.ts';
import { isIncomeAccount } from '../chart/account.ts';
import type { BankLine } from './bank-line.ts';

/** How a bank words its own charges and interest, and how accounts for them are named. */
const KINDS: readonly { readonly bank: RegExp; readonly account: RegExp; readonly isIn: boolean | null }[] = [
  {
    bank: /\b(fees?|charges?|service|overdraft|returned)\b/i,
    account: /\bbank\b.*\b(fees?|charges?)\b|\b(fees?|charges?)\b.*\bbank\b/i,
    isIn: false,
  },
  { bank: /\binterest\b/i, account: /\binterest\b.*\b(income|received|earned)\b/i, isIn: true },
  { bank: /\binterest\b/i, account: /\binterest\b.*\b(expense|paid)\b|\binterest\b/i, isIn: false },
];
/** An earlier entry made from a statement, and the account it was posted to. */
export type EarlierAdjustment = { readonly text: string; readonly account: string };

const beginning = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[^a-z ]/g, '')
    .trim()
    .split(/\s+/)
    .slice(0, 2)
    .join(' ');

/**
 * The account that a bank's own charge or interest goes to: the one that a line with the same first words went to last,
 * else the active income account named for it. Null where neither tells.
 * @param earlier the latest first
 */
export function suggestAccount(
  line: BankLine,
  { chart, earlier }: { readonly chart: Chart; readonly earlier: readonly EarlierAdjustment[] },
): string | null {
  const words = beginning(line.text);
  const same = words === '' ? undefined : earlier.find(({ text }) => beginning(text) === words);
  if (same) return same.account;
  for (const { bank, account, isIn } of KINDS) {
    if (!bank.test(line.text) || (isIn !== null && isIn !== line.amount > 0)) continue;
    const found = chart.accounts.find((each) => each.active && isIncomeAccount(each) && account.test(each.name));
    if (found) return found.number;
  }
  return null;
}
