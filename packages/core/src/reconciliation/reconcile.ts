import type { IsoDate } from '../calendar/iso-date.ts';
import type { BankLine, CashLine, Clearing } from './bank-line.ts';

/** A cash account against its bank as of a day. Amounts in minor units, money in positive. */
export type Reconciliation = {
  /** what the bank's statements show at the end of the day */
  readonly bankBalance: number;
  readonly depositsInTransit: readonly CashLine[];
  readonly outstandingPayments: readonly CashLine[];
  /** the bank's balance with what is on its way */
  readonly adjustedBank: number;
  readonly ledgerBalance: number;
  /** on a statement and not in the ledger by that day */
  readonly unrecorded: readonly BankLine[];
  /** the ledger's balance with what it has not recorded yet */
  readonly adjustedLedger: number;
  /** adjusted bank less adjusted ledger: zero when the account is reconciled but for items that are listed */
  readonly difference: number;
  /** clearings whose lines do not add up any more, since one was corrected or removed */
  readonly broken: readonly number[];
};

export type ReconciliationInput = {
  readonly asOf: IsoDate;
  /** lines of statements, in any order */
  readonly bank: readonly BankLine[];
  /** the bank's balance before the first line of its first statement */
  readonly bankOpening: number;
  /** first day of the first statement */
  readonly from: IsoDate;
  /** lines of the ledger: those from the first day on, and earlier ones that are cleared by a statement or marked as outstanding */
  readonly ledger: readonly CashLine[];
  /** the ledger's balance at the end of the day before the first statement */
  readonly ledgerOpening: number;
  /** lines before the first statement that the bank had not seen by then, marked by a person */
  readonly outstandingBefore: ReadonlySet<number>;
  readonly clearings: readonly Clearing[];
};

/**
 * Reconciles a cash account as of any day its statements reach. A line of the ledger is outstanding until the
 * last line it is cleared with; one before the first statement counts as settled, unless a statement clears it or it
 * is marked as outstanding. The difference is the same on every day: what the two opening balances do not explain. A
 * clearing whose lines no longer add up clears nothing.
 */
export function reconcile(input: ReconciliationInput): Reconciliation {
  const { asOf, bank, ledger, clearings, from, outstandingBefore } = input;
  const bankOf = new Map(bank.map((line) => [line.id, line]));
  const ledgerOf = new Map(ledger.map((line) => [line.id, line]));
  const clearedOn = { bank: new Map<number, IsoDate>(), ledger: new Map<number, IsoDate>() };
  const broken: number[] = [];
  for (const { id, bank: ofBank, ledger: ofLedger } of clearings) {
    const lines = [...ofBank.map((each) => bankOf.get(each)), ...ofLedger.map((each) => ledgerOf.get(each))];
    const sum = (of: readonly ({ readonly amount: number } | undefined)[]) => of.reduce((total, line) => total + (line?.amount ?? 0), 0);
    const isWhole = lines.length > 0 && lines.every((line) => line !== undefined);
    if (!isWhole || sum(lines.slice(0, ofBank.length)) !== sum(lines.slice(ofBank.length))) {
      broken.push(id);
      continue;
    }
    // as of a day between its lines none of them is cleared: those before the day are open on both sides
    const last = lines.reduce((latest, line) => (line!.date > latest ? line!.date : latest), lines[0]!.date);
    for (const each of ofBank) clearedOn.bank.set(each, last);
    for (const each of ofLedger) clearedOn.ledger.set(each, last);
  }
  const isOpen = (cleared: IsoDate | undefined): boolean => cleared === undefined || cleared > asOf;
  const outstanding = ledger.filter(({ id, date }) => {
    if (date > asOf || !isOpen(clearedOn.ledger.get(id))) return false;
    return date >= from || clearedOn.ledger.has(id) || outstandingBefore.has(id);
  });
  const unrecorded = bank.filter(({ id, date }) => date <= asOf && isOpen(clearedOn.bank.get(id)));
  const sumOf = (lines: readonly { readonly amount: number }[]) => lines.reduce((sum, { amount }) => sum + amount, 0);
  const bankBalance = input.bankOpening + sumOf(bank.filter(({ date }) => date <= asOf));
  const ledgerBalance = input.ledgerOpening + sumOf(ledger.filter(({ date }) => date >= from && date <= asOf));
  const adjustedBank = bankBalance + sumOf(outstanding);
  const adjustedLedger = ledgerBalance + sumOf(unrecorded);
  return {
    bankBalance,
    depositsInTransit: outstanding.filter(({ amount }) => amount > 0),
    outstandingPayments: outstanding.filter(({ amount }) => amount < 0),
    adjustedBank,
    ledgerBalance,
    unrecorded,
    adjustedLedger,
    difference: adjustedBank - adjustedLedger,
    broken,
  };
}
