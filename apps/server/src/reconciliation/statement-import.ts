import { type BankFileAnswerDto, type bankFileFieldsSchema, type BankFilePreviewDto, bankMappingSchema } from '@wise-margin/contract';
import { daysInMonth, daysLater, type IsoDate, isoDate, type Minor, minor, parseIsoDate, toDecimalText } from '@wise-margin/core';
import { dayWords } from '@wise-margin/presentation';
import type { z } from 'zod';

import type { Books, BooksCache } from '../companies/index.ts';
import { type Actor, recordAudit } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import { notFound, ProblemError, refused } from '../http/problem.ts';
import { readBankAmount } from './bank-files/bank-amount.ts';
import { type BankFile, BankFileError } from './bank-files/bank-file.ts';
import { type BankCsvMapping } from './bank-files/read-bank-csv.ts';
import { type ReadBankFile, readBankFile } from './bank-files/read-bank-file.ts';
import { cashAccountOf } from './cash-account.ts';
import type { CashAccount, StatementCounts, StatementStore } from './statement-store.ts';

type Fields = z.infer<typeof bankFileFieldsSchema>;
type Upload = { readonly path: string; readonly name: string; readonly actor: Actor };
/** A statement that fits those there are, or what keeps it from being imported. */
type Checked = { readonly opening: Minor | null; readonly closing: Minor | null; readonly faults: readonly string[] };

/** Imports bank statements: each file once, one after another without a break in the balance. */
export class StatementImport {
  readonly #database: Database;
  readonly #booksCache: BooksCache;
  readonly #store: StatementStore;

  constructor(options: { readonly database: Database; readonly booksCache: BooksCache; readonly store: StatementStore }) {
    this.#database = options.database;
    this.#booksCache = options.booksCache;
    this.#store = options.store;
  }

  /**
   * Looks at a bank's file and says what it holds and what keeps it from being imported; with the fingerprint of that look
   * it is imported.
   * @throws ProblemError 422 for a file that is not a bank statement, and for one with faults that is to be imported
   */
  async take(companyId: number, fields: Fields, { path, name, actor }: Upload): Promise<BankFileAnswerDto> {
    const books = await this.#booksCache.of(companyId);
    const account = cashAccountOf(books, fields.account);
    const known = (await this.#store.bankAccounts(companyId)).get(account.accountId);
    const mapping = fields.mapping === undefined ? (known?.mapping ?? null) : readMapping(fields.mapping);
    const read = await this.#read(path, books, mapping);
    const own = (await this.#store.statements(companyId)).filter(({ account_id }) => account_id === account.accountId);
    const file = read.file && withStated(read.file, fields, { account: known?.bankAccount ?? '', own });
    const checked = file ? await this.#check(books, { account, file, fields, fingerprint: read.fingerprint }) : null;
    const faults = [...read.faults, ...(checked?.faults ?? [])];
    if (fields.fingerprint === undefined) return { kind: 'preview', preview: previewOf(read, { file, checked, faults }) };
    if (fields.fingerprint !== read.fingerprint)
      throw new ProblemError(422, 'Another file', 'This file is not the one that was previewed. Look at its preview first.');
    if (!file || !checked || faults.length > 0)
      throw new ProblemError(422, 'Statement rejected', `Nothing was imported. ${faults.join(' ')}`).at(
        ...faults.map((message) => ({ path: 'file', message })),
      );
    const { opening, closing } = checked;
    await this.#database.write(async (transaction) => {
      const again = await this.#check(books, { account, file, fields, fingerprint: read.fingerprint });
      if (again.faults.length > 0) throw new ProblemError(409, 'Statement rejected', `Nothing was imported. ${again.faults.join(' ')}`);
      await this.#store.addStatement(
        account,
        { file, opening: opening!, closing: closing!, name, fingerprint: read.fingerprint, mapping: read.csv?.mapping ?? null, actor },
        transaction,
      );
      const details = { file: name, from: file.from, to: file.to, lines: file.lines.length };
      await recordAudit(
        this.#database,
        { companyId, actor, action: 'reconciliation.import', subject: `bank statement of ${fields.account}`, details },
        transaction,
      );
    });
    return { kind: 'imported', lines: file.lines.length };
  }

  /** Removes a statement and what was cleared with it; entries that were posted stay. @throws ProblemError 404 */
  async remove(companyId: number, id: number, actor: Actor): Promise<void> {
    const statement = (await this.#store.statements(companyId)).find((each) => each.id === id);
    if (!statement) throw notFound(`bank statement ${id}`);
    await this.#database.write(async (transaction) => {
      await this.#store.removeStatement(id, transaction);
      const details = { file: statement.file, from: statement.from_date, to: statement.to_date };
      await recordAudit(
        this.#database,
        { companyId, actor, action: 'reconciliation.remove', subject: 'bank statement', details },
        transaction,
      );
    });
  }

  async #read(path: string, books: Books, mapping: BankCsvMapping | null): Promise<ReadBankFile> {
    try {
      return await readBankFile(path, { mapping, exponent: books.currency.exponent });
    } catch (error) {
      if (error instanceof BankFileError) throw refused(`Nothing was imported. ${error.faults.join(' ')}`, 'file');
      throw error;
    }
  }

  async #check(
    books: Books,
    {
      account,
      file,
      fields,
      fingerprint,
    }: { readonly account: CashAccount; readonly file: BankFile; readonly fields: Fields; readonly fingerprint: string },
  ): Promise<Checked> {
    const statements = await this.#store.statements(books.id);
    const money = (amount: number) => toDecimalText(minor(amount), books.currency.exponent);
    const faults = [
      ...identityFaults(books, { account, file, number: fields.account, bankAccounts: await this.#store.bankAccounts(books.id) }),
      ...repetitionFaults(statements, { account, file, fingerprint }),
    ];
    const own = statements.filter(({ account_id }) => account_id === account.accountId);
    const before = own.filter(({ to_date }) => to_date < file.from).at(-1);
    const after = own.find(({ from_date }) => from_date > file.to);
    const typed =
      fields.opening === undefined || fields.opening === '' ? null : readBankAmount(fields.opening, '.', books.currency.exponent);
    if (fields.opening !== undefined && fields.opening !== '' && typed === null)
      faults.push(`The opening balance "${fields.opening}" is not an amount. Enter it such as 12,345.67.`);
    const sum = file.lines.reduce((total, { amount }) => total + amount, 0);
    const opening = file.opening ?? typed ?? before?.closing ?? null;
    if (opening === null) {
      faults.push('The file has no balance, and there is no statement before it. Enter the balance before its first line.');
      return { opening, closing: null, faults };
    }
    const closing = file.closing ?? minor(opening + sum);
    if (opening + sum !== closing)
      faults.push(
        `Its lines add up to ${money(sum)}, but its balance goes from ${money(opening)} to ${money(closing)}: ${money(closing - opening - sum)} is missing. Download the file again.`,
      );
    if (before && before.closing !== opening)
      faults.push(
        `It begins with ${money(opening)}, but ${before.file} ends on ${dayWords(before.to_date)} with ${money(before.closing)}. Import the statement of the days between first.`,
      );
    if (after && after.opening !== closing)
      faults.push(`It ends with ${money(closing)}, but ${after.file} begins on ${dayWords(after.from_date)} with ${money(after.opening)}.`);
    return { opening, closing, faults };
  }
}

/** Of another account of the bank, or in another currency. */
function identityFaults(
  books: Books,
  {
    account,
    file,
    number,
    bankAccounts,
  }: {
    readonly account: CashAccount;
    readonly file: BankFile;
    readonly number: string;
    readonly bankAccounts: ReadonlyMap<number, { readonly bankAccount: string }>;
  },
): string[] {
  const faults: string[] = [];
  if (file.currency !== '' && file.currency !== books.currency.code)
    faults.push(
      `The file is in ${file.currency}, and the books of ${books.name} are in ${books.currency.code}. Choose a file of an account in ${books.currency.code}.`,
    );
  const known = bankAccounts.get(account.accountId)?.bankAccount ?? '';
  const other = [...bankAccounts].find(
    ([id, { bankAccount }]) => id !== account.accountId && file.account !== '' && bankAccount === file.account,
  );
  if (other) {
    const at = books.chart.accounts[books.accountIds.indexOf(other[0])]!;
    faults.push(
      `The file is of the bank account ${file.account}, which belongs to ${at.number} ${at.name}. Choose that account, or another file.`,
    );
  } else if (known !== '' && file.account !== '' && known !== file.account)
    faults.push(
      `The file is of the bank account ${file.account}, but ${number} is reconciled with ${known}. Choose another account, or another file.`,
    );
  return faults;
}

/** The same file, or days that are on a statement already. */
function repetitionFaults(
  statements: readonly StatementCounts[],
  { account, file, fingerprint }: { readonly account: CashAccount; readonly file: BankFile; readonly fingerprint: string },
): string[] {
  const same = statements.find((each) => each.fingerprint === fingerprint);
  if (same) return [`This file was imported on ${dayWords(same.at.slice(0, 10))} by ${same.person} already, as ${same.file}.`];
  const days = (from: IsoDate, to: IsoDate) => `${dayWords(from)} to ${dayWords(to)}`;
  return statements
    .filter(({ account_id, from_date, to_date }) => account_id === account.accountId && from_date <= file.to && to_date >= file.from)
    .map(
      (each) =>
        `Its days, ${days(file.from, file.to)}, overlap ${each.file} (${days(each.from_date, each.to_date)}). Download the days after it, or remove that statement first.`,
    );
}

const LATE_IN_MONTH = 25;

/**
 * What a CSV file does not say itself: its account once it is known, and its days. Unless a person states them, it begins
 * with the month or after the statement before, and one with lines late in a month goes to its end.
 */
function withStated(
  file: BankFile,
  { from, to }: Fields,
  { account, own }: { readonly account: string; readonly own: readonly StatementCounts[] },
): BankFile {
  if (file.format !== 'csv') return file;
  const before = own.filter(({ to_date }) => to_date < file.from).at(-1)?.to_date;
  const after = own.find(({ from_date }) => from_date > file.to)?.from_date;
  const [year, month, day] = file.to.split('-').map(Number) as [number, number, number];
  const monthStart = `${file.from.slice(0, 7)}-01` as IsoDate;
  const monthEnd = isoDate(year, month, daysInMonth(year, month));
  const first = before !== undefined && before >= monthStart ? daysLater(before, 1) : monthStart;
  const last = day < LATE_IN_MONTH ? file.to : after !== undefined && after <= monthEnd ? daysLater(after, -1) : monthEnd;
  const [statedFrom, statedTo] = [from === undefined ? first : parseIsoDate(from), to === undefined ? last : parseIsoDate(to)];
  return {
    ...file,
    account,
    from: statedFrom !== null && statedFrom < file.from ? statedFrom : file.from,
    to: statedTo !== null && statedTo > file.to ? statedTo : file.to,
  };
}

function readMapping(text: string): BankCsvMapping {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw refused('The mapping of the columns cannot be read.', 'mapping');
  }
  const parsed = bankMappingSchema.safeParse(value);
  if (!parsed.success) throw refused(parsed.error.issues[0]!.message, 'mapping');
  return parsed.data;
}

function previewOf(
  { fingerprint, format, csv }: ReadBankFile,
  { file, checked, faults }: { readonly file: BankFile | null; readonly checked: Checked | null; readonly faults: readonly string[] },
): BankFilePreviewDto {
  const lines = file?.lines ?? [];
  const sumOf = (isIn: boolean) => minor(lines.reduce((sum, { amount }) => (amount > 0 === isIn ? sum + amount : sum), 0));
  return {
    fingerprint,
    format,
    bankAccount: file?.account ?? '',
    from: file?.from ?? '',
    to: file?.to ?? '',
    lines: lines.length,
    moneyIn: sumOf(true),
    moneyOut: sumOf(false),
    opening: checked?.opening ?? null,
    closing: checked?.closing ?? null,
    csv: csv && { columns: [...csv.columns], mapping: csv.mapping, rows: csv.rows.map((row) => [...row]) },
    faults: [...faults],
  };
}
