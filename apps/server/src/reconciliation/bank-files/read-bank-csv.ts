import { type IsoDate, isoDate, type Minor, minor, parseIsoDate } from '@wise-margin/core';

import { type DecimalSign, readBankAmount } from './bank-amount.ts';
import { type BankFile, BankFileError, type BankFileLine } from './bank-file.ts';

/** Which of year, month and day comes first, second and third. */
type DateOrder = 'ymd' | 'mdy' | 'dmy';
/** Which column of a bank's file is what; columns count from 0, null where there is none. */
export type BankCsvMapping = {
  /** the row of the headings, counted from 1; 0 for a file without */
  readonly headingRow: number;
  readonly date: number;
  /** one column with a sign, or two without */
  readonly amount: number | null;
  readonly moneyIn: number | null;
  readonly moneyOut: number | null;
  readonly text: number;
  readonly reference: number | null;
  readonly party: number | null;
  readonly balance: number | null;
  readonly dateOrder: DateOrder;
  readonly decimal: DecimalSign;
  /** whether money out has no sign and money in has a minus, as on some card statements */
  readonly isReversed: boolean;
};

const MOST_FAULTS = 20;
const MOST_HEADING_ROW = 30;
const HEADINGS = {
  date: /\b(posting|posted|booking|booked|transaction|value)?\s?date\b|^date|^posted$|^booked$/i,
  moneyIn: /\b(credit|deposits?|money in|paid in|received)\b/i,
  moneyOut: /\b(debit|withdrawals?|money out|paid out|payments?)\b/i,
  amount: /\bamount\b|^value$/i,
  balance: /\bbalance\b/i,
  reference: /\b(reference|ref|check (number|no)|document)\b|check ?#/i,
  party: /\b(payee|payer|counterparty|name)\b/i,
  text: /\b(description|details?|narrative|memo|text|particulars|remittance)\b/i,
} as const;

/** What the columns of a file most likely are, from their headings and their first rows. Null where there is not a date or no amount. */
export function proposeMapping(rows: readonly (readonly string[])[]): BankCsvMapping | null {
  for (const [at, row] of rows.slice(0, MOST_HEADING_ROW).entries()) {
    const taken = new Set<number>();
    const find = (name: keyof typeof HEADINGS): number | null => {
      const found = row.findIndex((cell, column) => !taken.has(column) && HEADINGS[name].test(cell.trim()));
      if (found < 0) return null;
      taken.add(found);
      return found;
    };
    // "Check number" is a reference before it is money out
    const [date, balance, reference] = [find('date'), find('balance'), find('reference')];
    const [moneyIn, moneyOut, amount] = [find('moneyIn'), find('moneyOut'), find('amount')];
    const hasBoth = moneyIn !== null && moneyOut !== null;
    if (date === null || (amount === null && !hasBoth)) continue;
    const party = find('party');
    const text = find('text') ?? party ?? row.findIndex((_, column) => !taken.has(column));
    const columns = {
      date,
      amount: hasBoth ? null : amount,
      moneyIn: hasBoth ? moneyIn : null,
      moneyOut: hasBoth ? moneyOut : null,
      balance,
    };
    const values = rows.slice(at + 1);
    return {
      headingRow: at + 1,
      ...columns,
      text: Math.max(text, 0),
      reference,
      party,
      dateOrder: dateOrderOf(values.map((each) => each[date] ?? '')),
      decimal: decimalOf(
        values.flatMap((each) =>
          [columns.amount, columns.moneyIn, columns.moneyOut].map((column) => (column === null ? '' : (each[column] ?? ''))),
        ),
      ),
      isReversed: false,
    };
  }
  return null;
}

/** The order that every date fits; where several do, that of the United States. */
function dateOrderOf(texts: readonly string[]): DateOrder {
  const written = texts.filter((text) => text.trim() !== '');
  return (['ymd', 'mdy', 'dmy'] as const).find((order) => written.every((text) => readBankDate(text, order) !== null)) ?? 'mdy';
}
/** A comma before the last two digits is the decimal separator, unless some amount has a period there. */
const decimalOf = (texts: readonly string[]): DecimalSign =>
  texts.some((text) => /,\d{2}\D*$/.test(text)) && !texts.some((text) => /\.\d{2}\D*$/.test(text)) ? ',' : '.';

/** `2026-10-31`, `10/31/2026`, `31.10.26`, `Oct 31, 2026`. Null where it is not a day. */
export function readBankDate(text: string, order: DateOrder): IsoDate | null {
  const trimmed = text.trim();
  const plain = /^(\d{4})(\d{2})(\d{2})$/.exec(trimmed);
  if (plain) return parseIsoDate(`${plain[1]}-${plain[2]}-${plain[3]}`);
  const parts = /^(\d{1,4})[-/. ](\d{1,2})[-/. ](\d{1,4})(?:[T ].{0,20})?$/.exec(trimmed);
  if (!parts) return null;
  const [first, second, third] = [parts[1]!, parts[2]!, parts[3]!];
  const [year, month, day] = order === 'ymd' ? [first, second, third] : order === 'mdy' ? [third, first, second] : [third, second, first];
  if (year.length !== 4 && !(year.length === 2 && order !== 'ymd')) return null;
  return parseIsoDate(isoDate(Number(year.length === 2 ? `20${year}` : year), Number(month), Number(day)));
}

/**
 * Reads a bank's rows as they are mapped; newest or oldest first.
 * @param of.exponent decimals of the currency
 * @throws BankFileError naming row, column and value of each fault, twenty at most
 */
export function readBankRows(
  rows: readonly (readonly string[])[],
  { mapping, exponent }: { readonly mapping: BankCsvMapping; readonly exponent: number },
): BankFile {
  const headings = mapping.headingRow === 0 ? [] : (rows[mapping.headingRow - 1] ?? []);
  const faults: string[] = [];
  const named = (column: number): string => headings[column]?.trim() || `column ${column + 1}`;
  const fault = (row: number, column: number, why: string): void => {
    faults.push(`Row ${row}, ${named(column)}: ${why}`);
  };
  const read: (BankFileLine & { readonly row: number; readonly balance: Minor | null })[] = [];
  rows.forEach((row, at) => {
    if (at < mapping.headingRow || row.every((cell) => cell.trim() === '')) return;
    const cell = (column: number | null): string => (column === null ? '' : (row[column] ?? '').trim());
    const number = at + 1;
    const amountIn = (column: number | null): Minor | null => {
      if (cell(column) === '') return null;
      const amount = readBankAmount(cell(column), mapping.decimal, exponent);
      if (amount === null) fault(number, column!, `"${cell(column)}" is not an amount. Choose another column, or correct the file.`);
      return amount;
    };
    const date = readBankDate(cell(mapping.date), mapping.dateOrder);
    const before = faults.length;
    const amount = amountOfRow(mapping, amountIn);
    const balance = amountIn(mapping.balance);
    // rows such as "Opening balance" or a note at the foot have no amount
    if (amount === null && faults.length === before) return;
    if (date === null)
      fault(number, mapping.date, `"${cell(mapping.date)}" is not a date. Choose the order of day, month and year, or correct the file.`);
    if (date === null || amount === null || amount === 0) return;
    read.push({
      row: number,
      date,
      amount,
      balance,
      text: cell(mapping.text),
      reference: cell(mapping.reference),
      party: mapping.party === mapping.text ? '' : cell(mapping.party),
    });
  });
  if (read.length === 0 && faults.length === 0)
    faults.push('The file has no rows with a date and an amount. Choose other columns, or another file.');
  const isNewestFirst = read.length > 1 && read[0]!.date > read.at(-1)!.date;
  const ordered = isNewestFirst ? [...read].reverse() : read;
  ordered.forEach(({ row, amount, balance }, at) => {
    const before = ordered[at - 1]?.balance ?? null;
    if (balance !== null && before !== null && before + amount !== balance)
      fault(
        row,
        mapping.balance!,
        'the balance is not the one before with this amount. A row is missing, or the columns or their signs are others.',
      );
  });
  if (faults.length > 0)
    throw new BankFileError(
      faults.length > MOST_FAULTS ? [...faults.slice(0, MOST_FAULTS), `And ${faults.length - MOST_FAULTS} more.`] : faults,
    );
  const [first, last] = [ordered[0]!, ordered.at(-1)!];
  return {
    format: 'csv',
    account: '',
    currency: '',
    from: ordered.reduce((least, { date }) => (date < least ? date : least), first.date),
    to: ordered.reduce((most, { date }) => (date > most ? date : most), last.date),
    opening: first.balance === null ? null : minor(first.balance - first.amount),
    closing: last.balance,
    lines: ordered.map(({ date, amount, text, reference, party }) => ({ date, amount, text, reference, party })),
  };
}

function amountOfRow(
  { amount, moneyIn, moneyOut, isReversed }: BankCsvMapping,
  read: (column: number | null) => Minor | null,
): Minor | null {
  if (amount !== null) {
    const value = read(amount);
    return value === null ? null : minor(isReversed && value !== 0 ? -value : value);
  }
  const [received, paid] = [read(moneyIn), read(moneyOut)];
  if (received === null && paid === null) return null;
  // money out is written with a minus or without
  return minor((received ?? 0) - Math.abs(paid ?? 0));
}
