import type { IsoDate } from '../calendar/iso-date.ts';
import type { Minor } from '../money/minor.ts';

/** A line of a bank statement. Amounts are the company's: money in is positive. */
export type BankLine = {
  readonly id: number;
  readonly date: IsoDate;
  readonly amount: Minor;
  /** as the bank words it */
  readonly text: string;
  /** a check number or the payer's reference; may be empty */
  readonly reference: string;
  /** who paid or was paid, where the bank says; may be empty */
  readonly party: string;
};

/** A line of the ledger on the cash account; a debit is positive. */
export type CashLine = {
  readonly id: number;
  readonly date: IsoDate;
  readonly amount: Minor;
  /** number of its entry */
  readonly entry: string;
  readonly document: string;
  readonly memo: string;
  readonly party: string;
};

/** Lines of the bank and of the ledger that are the same money, by their numbers. */
export type Clearing = { readonly id: number; readonly bank: readonly number[]; readonly ledger: readonly number[] };
