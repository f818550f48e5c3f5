import {
  type Aging,
  agingAt,
  type ControlLine,
  dayNumber,
  DEFAULT_BUCKETS,
  formatAmount,
  type LineTable,
  type Minor,
  minor,
} from '@wise-margin/core';

import type { Books } from '../../companies/index.ts';
import { controlLines } from './control-lines.ts';
import type { ReportSources } from './report.ts';

export type ControlKind = 'receivables' | 'payables';

/** What an account holds at the end of a day, debit positive, drafts left out. */
export function balanceAt(table: LineTable, account: number, asOf: string): Minor {
  const last = dayNumber(asOf);
  let sum = 0;
  for (let position = 0; position < table.count && table.day[position]! <= last; position += 1)
    if (table.account[position] === account && !table.isDraft(position)) sum += table.amount[position]!;
  return minor(sum);
}

/** The balance of accounts kept by customer or vendor at the end of a day, in the sign in which more is owed. */
export function controlBalance(
  table: LineTable,
  { kind, accounts, asOf }: { readonly kind: ControlKind; readonly accounts: readonly number[]; readonly asOf: string },
): Minor {
  const sum = accounts.reduce((total, account) => total + balanceAt(table, account, asOf), 0);
  return minor(kind === 'receivables' ? sum : -sum);
}

export const accountNames = ({ chart }: Books, accounts: readonly number[]): string =>
  accounts.map((account) => `${chart.accounts[account]!.number} ${chart.accounts[account]!.name}`).join(', ');

/** By how much the balance of the accounts differs from what is open by customer or vendor, and what explains it. */
export function differenceWords(
  books: Books,
  {
    kind,
    accounts,
    aging: { total, unnamed },
    balance,
  }: {
    readonly kind: ControlKind;
    readonly accounts: readonly number[];
    readonly aging: Pick<Aging, 'total' | 'unnamed'>;
    readonly balance: Minor;
  },
): string {
  const write = (value: number) => formatAmount(minor(Math.abs(value)), { exponent: books.currency.exponent, unit: 'cents' });
  const lines = `${unnamed.lines.toLocaleString('en-US')} ${unnamed.lines === 1 ? 'line names' : 'lines name'}`;
  const unexplained = balance - total - unnamed.amount;
  return `The balance of ${accountNames(books, accounts)} is ${write(balance)}, ${write(balance - total)} ${balance > total ? 'more' : 'less'} than the total: ${lines} no ${kind === 'receivables' ? 'customer' : 'vendor'}${unexplained === 0 ? '' : `; ${write(unexplained)} is not explained`}.`;
}

/**
 * Receivables or payables at the end of a day: the balance of their accounts beside what is open by customer or vendor, and
 * what parts the two, in words; null where no account is kept by customer or vendor.
 */
export async function openItemFigures(
  sources: Pick<ReportSources, 'database' | 'booksCache'>,
  books: Books,
  { kind, asOf }: { readonly kind: ControlKind; readonly asOf: ControlLine['date'] },
): Promise<{ readonly accounts: string; readonly balance: Minor; readonly open: Minor; readonly where: string } | null> {
  const { lines, accounts } = await controlLines(sources.database, books, kind);
  if (accounts.length === 0) return null;
  const aging = agingAt(lines, { asOf, basis: 'due', buckets: DEFAULT_BUCKETS });
  const balance = controlBalance(await sources.booksCache.lines(books), { kind, accounts, asOf });
  const where = balance === aging.total ? '' : differenceWords(books, { kind, accounts, aging, balance });
  return { accounts: accountNames(books, accounts), balance, open: aging.total, where };
}

/** The difference of receivables or payables from their accounts at the end of a day, in words; null when they agree. */
export async function tieOut(...asked: Parameters<typeof openItemFigures>): Promise<string | null> {
  return (await openItemFigures(...asked))?.where || null;
}
