import type { BankLine, CashLine, Clearing, IsoDate, Minor } from '@wise-margin/core';
import type { Transaction } from 'sequelize';

import type { Actor } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import type { BankFile, BankFileFormat } from './bank-files/bank-file.ts';
import { type BankCsvMapping } from './bank-files/read-bank-csv.ts';

/** A cash account of a company, by its row. */
export type CashAccount = { readonly company: number; readonly accountId: number };
export type StatementRow = {
  readonly id: number;
  readonly account_id: number;
  readonly format: BankFileFormat;
  readonly file: string;
  readonly fingerprint: string;
  readonly from_date: IsoDate;
  readonly to_date: IsoDate;
  readonly opening: Minor;
  readonly closing: Minor;
  readonly at: string;
  readonly person: string;
};
export type StatementCounts = StatementRow & { readonly lines: number; readonly open: number };
export type StoredClearing = Clearing & {
  readonly kind: 'matched' | 'adjustment' | 'difference';
  readonly at: string;
  readonly person: string;
  readonly difference: number;
  readonly reason: string;
  readonly explanation: string;
};
/** A line of the ledger with its entry. */
export type StoredCashLine = CashLine & { readonly entryId: number };
export type NewClearing = {
  readonly kind: StoredClearing['kind'];
  readonly bank: readonly number[];
  readonly ledger: readonly number[];
  readonly difference?: number;
  readonly reason?: string;
  /** the account a charge was posted to, from which the next one's is suggested */
  readonly otherAccount?: string;
};
type ClearingRow = Omit<StoredClearing, 'bank' | 'ledger'> & { readonly bank: string; readonly ledger: string };

const CASH_LINES = `SELECT l.id, e.id AS entryId, e.number AS entry, e.date, l.amount, l.document, l.memo, coalesce(p.name, '') AS party
  FROM lines l JOIN entries e ON e.id = l.entry_id LEFT JOIN parties p ON p.id = l.party_id
  WHERE l.account_id = $1 AND e.state = 'posted'`;

/** Bank statements and clearings as they are kept. */
export class StatementStore {
  readonly #database: Database;

  constructor(database: Database) {
    this.#database = database;
  }

  /** Every statement of a company, by account and then by day. */
  statements(company: number): Promise<StatementCounts[]> {
    return this.#database.select<StatementCounts>(
      `SELECT s.*, (SELECT count(*) FROM bank_lines b WHERE b.statement_id = s.id) AS lines,
         (SELECT count(*) FROM bank_lines b WHERE b.statement_id = s.id AND b.clearing_id IS NULL) AS open
       FROM bank_statements s WHERE s.company_id = $1 ORDER BY s.account_id, s.from_date`,
      [company],
    );
  }

  bankLines({ accountId }: CashAccount): Promise<BankLine[]> {
    return this.#database.select<BankLine>(
      `SELECT b.id, b.date, b.amount, b.text, b.reference, b.party FROM bank_statements s JOIN bank_lines b ON b.statement_id = s.id
       WHERE s.account_id = $1 ORDER BY b.date, b.id`,
      [accountId],
    );
  }

  /** Posted lines of a cash account dated from a day on, and earlier ones that are cleared or marked as outstanding. */
  cashLines({ accountId }: CashAccount, from: IsoDate): Promise<StoredCashLine[]> {
    return this.#database.select<StoredCashLine>(
      `${CASH_LINES} AND (e.date >= $2 OR l.id IN (SELECT line_id FROM cleared_lines) OR l.id IN (SELECT line_id FROM outstanding_lines)) ORDER BY e.date, l.id`,
      [accountId, from],
    );
  }

  /** The balance of a cash account at the end of the day before a day. */
  async balanceBefore({ accountId }: CashAccount, day: IsoDate): Promise<number> {
    const row = await this.#database.selectAside<{ balance: number }>(
      `SELECT coalesce(sum(l.amount), 0) AS balance FROM lines l JOIN entries e ON e.id = l.entry_id WHERE l.account_id = $1 AND e.state = 'posted' AND e.date < $2`,
      [accountId, day],
    );
    return row!.balance;
  }

  async clearings({ accountId }: CashAccount): Promise<StoredClearing[]> {
    const rows = await this.#database.select<ClearingRow>(
      `SELECT c.id, c.kind, c.at, c.person, c.difference, c.reason, c.explanation,
         (SELECT json_group_array(b.id) FROM bank_lines b WHERE b.clearing_id = c.id) AS bank,
         (SELECT json_group_array(l.line_id) FROM cleared_lines l WHERE l.clearing_id = c.id) AS ledger
       FROM clearings c WHERE c.account_id = $1 ORDER BY c.id`,
      [accountId],
    );
    return rows.map((row) => ({ ...row, bank: JSON.parse(row.bank) as number[], ledger: JSON.parse(row.ledger) as number[] }));
  }

  async outstandingMarks(company: number): Promise<ReadonlySet<number>> {
    const rows = await this.#database.select<{ line_id: number }>('SELECT line_id FROM outstanding_lines WHERE company_id = $1', [company]);
    return new Set(rows.map(({ line_id }) => line_id));
  }

  /** What lines of statements were posted to, the latest first. */
  adjustments({ accountId }: CashAccount): Promise<{ text: string; account: string }[]> {
    return this.#database.select(
      `SELECT b.text, c.other_account AS account FROM clearings c JOIN bank_lines b ON b.clearing_id = c.id
       WHERE c.account_id = $1 AND c.kind = 'adjustment' ORDER BY c.id DESC LIMIT 200`,
      [accountId],
    );
  }

  /** What files of a cash account look like. */
  async bankAccounts(company: number): Promise<Map<number, { readonly bankAccount: string; readonly mapping: BankCsvMapping | null }>> {
    const rows = await this.#database.select<{ account_id: number; bank_account: string; mapping: string | null }>(
      'SELECT account_id, bank_account, mapping FROM bank_accounts WHERE company_id = $1',
      [company],
    );
    return new Map(
      rows.map(({ account_id, bank_account, mapping }) => [
        account_id,
        { bankAccount: bank_account, mapping: mapping === null ? null : (JSON.parse(mapping) as BankCsvMapping) },
      ]),
    );
  }

  async addStatement(
    { company, accountId }: CashAccount,
    {
      file,
      opening,
      closing,
      name,
      fingerprint,
      mapping,
      actor,
    }: {
      readonly file: BankFile;
      readonly opening: number;
      readonly closing: number;
      readonly name: string;
      readonly fingerprint: string;
      readonly mapping: BankCsvMapping | null;
      readonly actor: Actor;
    },
    transaction: Transaction,
  ): Promise<void> {
    const { run, select } = this.#database;
    await run(
      `INSERT INTO bank_statements (company_id, account_id, format, file, fingerprint, from_date, to_date, opening, closing, at, person)
       VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11)`,
      [company, accountId, file.format, name, fingerprint, file.from, file.to, opening, closing, actor.now().toISOString(), actor.name],
      transaction,
    );
    const [made] = await select<{ id: number }>('SELECT max(id) AS id FROM bank_statements', [], transaction);
    await run(
      `INSERT INTO bank_lines (statement_id, date, amount, text, reference, party)
       SELECT $1, value ->> 'date', value ->> 'amount', value ->> 'text', value ->> 'reference', value ->> 'party' FROM json_each($2) ORDER BY key`,
      [made!.id, JSON.stringify(file.lines)],
      transaction,
    );
    await run(
      `INSERT INTO bank_accounts (company_id, account_id, bank_account, mapping) VALUES ($1, $2, $3, $4)
       ON CONFLICT DO UPDATE SET bank_account = CASE WHEN excluded.bank_account = '' THEN bank_account ELSE excluded.bank_account END,
         mapping = coalesce(excluded.mapping, mapping)`,
      [company, accountId, file.account, mapping === null ? null : JSON.stringify(mapping)],
      transaction,
    );
  }

  async removeStatement(id: number, transaction: Transaction): Promise<void> {
    const { run } = this.#database;
    const cleared = `SELECT clearing_id FROM bank_lines WHERE statement_id = $1 AND clearing_id IS NOT NULL`;
    const [rows] = [await this.#database.select<{ clearing_id: number }>(cleared, [id], transaction)];
    for (const { clearing_id } of rows) await this.removeClearing(clearing_id, transaction);
    await run('DELETE FROM bank_lines WHERE statement_id = $1', [id], transaction);
    await run('DELETE FROM bank_statements WHERE id = $1', [id], transaction);
  }

  async addClearing(
    { company, accountId }: CashAccount,
    { kind, bank, ledger, difference = 0, reason = '', otherAccount = '' }: NewClearing,
    { actor, transaction }: { readonly actor: Actor; readonly transaction: Transaction },
  ): Promise<void> {
    const { run, select } = this.#database;
    await run(
      'INSERT INTO clearings (company_id, account_id, kind, at, person, difference, reason, other_account) VALUES ($1, $2, $3, $4, $5, $6, $7, $8)',
      [company, accountId, kind, actor.now().toISOString(), actor.name, difference, reason, otherAccount],
      transaction,
    );
    const [made] = await select<{ id: number }>('SELECT max(id) AS id FROM clearings', [], transaction);
    await run(
      'UPDATE bank_lines SET clearing_id = $1 WHERE id IN (SELECT value FROM json_each($2))',
      [made!.id, JSON.stringify(bank)],
      transaction,
    );
    await run(
      'INSERT INTO cleared_lines (line_id, clearing_id) SELECT value, $1 FROM json_each($2)',
      [made!.id, JSON.stringify(ledger)],
      transaction,
    );
  }

  async removeClearing(id: number, transaction: Transaction): Promise<void> {
    const { run } = this.#database;
    await run('UPDATE bank_lines SET clearing_id = NULL WHERE clearing_id = $1', [id], transaction);
    await run('DELETE FROM cleared_lines WHERE clearing_id = $1', [id], transaction);
    await run('DELETE FROM clearings WHERE id = $1', [id], transaction);
  }
}
