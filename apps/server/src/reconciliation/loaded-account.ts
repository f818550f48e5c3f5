import { type BankLine, daysLater, type IsoDate, reconcile, type Reconciliation } from '@wise-margin/core';

import type { Books } from '../companies/index.ts';
import { cashAccountOf } from './cash-account.ts';
import type { CashAccount, StatementCounts, StatementStore, StoredCashLine, StoredClearing } from './statement-store.ts';

/** Lines this many days before the first statement may still clear. */
const DAYS_BEFORE = 75;

/** A cash account with everything its reconciliation is made of. */
export type Loaded = {
  readonly books: Books;
  readonly account: CashAccount & { readonly name: string };
  readonly statements: readonly StatementCounts[];
  readonly bank: readonly BankLine[];
  /** from some days before the first statement on */
  readonly ledger: readonly StoredCashLine[];
  readonly clearings: readonly StoredClearing[];
  readonly marks: ReadonlySet<number>;
};
export type Reconciled = Reconciliation & { readonly clearings: readonly StoredClearing[]; readonly from: IsoDate; readonly to: IsoDate };

/** @param all every statement of the company */
export async function loadAccount(
  store: StatementStore,
  { books, number, all }: { readonly books: Books; readonly number: string; readonly all: readonly StatementCounts[] },
): Promise<Loaded> {
  const account = cashAccountOf(books, number);
  const statements = all.filter(({ account_id }) => account_id === account.accountId);
  const [first] = statements;
  if (!first) return { books, account, statements, bank: [], ledger: [], clearings: [], marks: new Set() };
  return {
    books,
    account,
    statements,
    bank: await store.bankLines(account),
    ledger: await store.cashLines(account, daysLater(first.from_date, -DAYS_BEFORE)),
    clearings: await store.clearings(account),
    marks: await store.outstandingMarks(books.id),
  };
}

/** Null when no statement reaches the day. */
export async function reconciledAt(
  store: StatementStore,
  { account, statements, bank, ledger, clearings, marks }: Loaded,
  asOf: IsoDate,
): Promise<Reconciled | null> {
  const [first, last] = [statements[0], statements.at(-1)];
  if (!first || !last || asOf < daysLater(first.from_date, -1) || asOf > last.to_date) return null;
  const reconciled = reconcile({
    asOf,
    bank,
    bankOpening: first.opening,
    from: first.from_date,
    ledger,
    ledgerOpening: await store.balanceBefore(account, first.from_date),
    outstandingBefore: marks,
    clearings,
  });
  return { ...reconciled, clearings, from: first.from_date, to: last.to_date };
}

/** Lines that no clearing has, on either side. */
export function openLines({ bank, ledger, clearings }: Loaded): { readonly bank: BankLine[]; readonly ledger: StoredCashLine[] } {
  const taken = { bank: new Set(clearings.flatMap((each) => each.bank)), ledger: new Set(clearings.flatMap((each) => each.ledger)) };
  return { bank: bank.filter(({ id }) => !taken.bank.has(id)), ledger: ledger.filter(({ id }) => !taken.ledger.has(id)) };
}

/** The lines of both sides by their numbers. */
export type LinesById = { readonly bank: ReadonlyMap<number, BankLine>; readonly ledger: ReadonlyMap<number, StoredCashLine> };
export const linesById = ({ bank, ledger }: Pick<Loaded, 'bank' | 'ledger'>): LinesById => ({
  bank: new Map(bank.map((line) => [line.id, line])),
  ledger: new Map(ledger.map((line) => [line.id, line])),
});
