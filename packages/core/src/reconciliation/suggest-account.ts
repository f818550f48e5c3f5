import { type Account, type Chart, isIncomeAccount } from '../chart/account.ts';
import type { BankLine } from './bank-line.ts';

/** How a bank words its own charges and interest, whether that is money in, and the accounts for them. */
const KINDS: readonly { readonly bank: RegExp; readonly isIn: boolean; readonly isFor: (account: Account) => boolean }[] = [
  {
    bank: /\b(fees?|charges?|service|overdraft|returned)\b/i,
    isIn: false,
    isFor: ({ name }) => /\bbank\b/i.test(name) && /\b(fees?|charges?)\b/i.test(name),
  },
  { bank: /\binterest\b/i, isIn: true, isFor: ({ name }) => /\binterest\b.*\b(income|received|earned)\b/i.test(name) },
  { bank: /\binterest\b/i, isIn: false, isFor: (account) => account.class === 'interestExpense' },
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
  for (const { bank, isIn, isFor } of KINDS) {
    if (!bank.test(line.text) || isIn !== line.amount > 0) continue;
    const found = chart.accounts.find((each) => each.active && isIncomeAccount(each) && isFor(each));
    if (found) return found.number;
  }
  return null;
}
