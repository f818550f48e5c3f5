import type { IsoDate, Minor } from '@wise-margin/core';

/** A line of a bank's file; money in is positive. */
export type BankFileLine = {
  readonly date: IsoDate;
  readonly amount: Minor;
  readonly text: string;
  /** a check number or the payer's reference; may be empty */
  readonly reference: string;
  readonly party: string;
};

/** A bank statement as a file has it. */
export type BankFile = {
  readonly format: BankFileFormat;
  /** the bank's number of the account; empty where the file names none */
  readonly account: string;
  /** ISO code; empty where the file names none */
  readonly currency: string;
  readonly from: IsoDate;
  readonly to: IsoDate;
  /** balance before the first line, and after the last; null where the file has none */
  readonly opening: Minor | null;
  readonly closing: Minor | null;
  /** in the order of their dates */
  readonly lines: readonly BankFileLine[];
};
export type BankFileFormat = 'csv' | 'ofx' | 'camt053';

/** What is wrong with a bank's file, each in a sentence that says where and what to do. */
export class BankFileError extends Error {
  override readonly name = 'BankFileError';
  constructor(readonly faults: readonly string[]) {
    super(faults[0]);
  }
}

/** Lines in the order of their dates; those of one day as the file has them. */
export const inDateOrder = <Line extends { readonly date: IsoDate }>(lines: readonly Line[]): Line[] =>
  lines
    .map((line, at) => ({ line, at }))
    .sort((a, b) => (a.line.date === b.line.date ? a.at - b.at : a.line.date < b.line.date ? -1 : 1))
    .map(({ line }) => line);
