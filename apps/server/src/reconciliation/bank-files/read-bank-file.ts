import { readFile } from 'node:fs/promises';

import { inspectFile } from '../../formats/inspect-file.ts';
import { BrokenCsvError, readCsv } from '../../formats/read-csv.ts';
import { type BankFile, BankFileError, type BankFileFormat } from './bank-file.ts';
import { type BankCsvMapping, proposeMapping, readBankRows } from './read-bank-csv.ts';
import { readCamt } from './read-camt.ts';
import { readOfx } from './read-ofx.ts';

const MOST_ROWS = 100_000;
const ROWS_SHOWN = 6;

/** A CSV file's columns, how they are mapped, and its first rows. */
export type CsvLook = {
  readonly columns: readonly string[];
  readonly mapping: BankCsvMapping;
  readonly rows: readonly (readonly string[])[];
};
/** A bank's file as it was read: the statement, or why it is none. */
export type ReadBankFile = {
  readonly fingerprint: string;
  readonly format: BankFileFormat;
  readonly file: BankFile | null;
  readonly csv: CsvLook | null;
  readonly faults: readonly string[];
};

/**
 * Reads a bank's file by what is in it, whatever its name: OFX, camt.053, else columns.
 * @param of.mapping of a CSV file; left out, the likeliest
 * @throws BankFileError for a file that is not a bank statement at all
 */
export async function readBankFile(
  path: string,
  { mapping, exponent }: { readonly mapping: BankCsvMapping | null; readonly exponent: number },
): Promise<ReadBankFile> {
  const inspected = await inspectFile(path);
  if (inspected.bytes === 0) throw new BankFileError(['The file is empty. Download it from the bank again.']);
  const text = new TextDecoder(inspected.encoding).decode(await readFile(path));
  const head = text.slice(0, 4000);
  const fingerprint = inspected.sha256;
  if (/<OFX>/i.test(head) || /^OFXHEADER/m.test(head))
    return { fingerprint, format: 'ofx', csv: null, ...attempt(() => readOfx(text, exponent)) };
  if (/BkToCstmr|camt\.05/i.test(head)) return { fingerprint, format: 'camt053', csv: null, ...attempt(() => readCamt(text, exponent)) };
  if (inspected.notText !== null || /^\s*</.test(head))
    throw new BankFileError([
      `The file is ${inspected.notText ?? 'not a bank statement'}. Choose a CSV, OFX or camt.053 file from the bank.`,
    ]);
  const rows: string[][] = [];
  try {
    await readCsv(path, inspected, (cells) => {
      if (rows.length >= MOST_ROWS)
        throw new BankFileError([`The file has more than ${MOST_ROWS.toLocaleString('en-US')} rows. Download fewer months at a time.`]);
      rows.push(cells);
    });
  } catch (error) {
    if (error instanceof BrokenCsvError) throw new BankFileError([`Row ${error.row}: the quotes do not close. Download the file again.`]);
    throw error;
  }
  const used = mapping ?? proposeMapping(rows);
  if (used === null)
    throw new BankFileError([
      'No row has headings for a date and an amount. Choose a file with columns such as Date, Description and Amount.',
    ]);
  const width = Math.max(...rows.slice(0, 100).map(({ length }) => length));
  const headings = used.headingRow === 0 ? [] : (rows[used.headingRow - 1] ?? []);
  const columns = Array.from({ length: width }, (_, at) => headings[at]?.trim() || `Column ${at + 1}`);
  const csv = { columns, mapping: used, rows: rows.slice(used.headingRow, used.headingRow + ROWS_SHOWN) };
  return { fingerprint, format: 'csv', csv, ...attempt(() => readBankRows(rows, { mapping: used, exponent })) };
}

function attempt(read: () => BankFile): Pick<ReadBankFile, 'file' | 'faults'> {
  try {
    return { file: read(), faults: [] };
  } catch (error) {
    if (error instanceof BankFileError) return { file: null, faults: error.faults };
    throw error;
  }
}
