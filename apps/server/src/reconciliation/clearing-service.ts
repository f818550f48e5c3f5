import type { PostAdjustment } from '@wise-margin/contract';
import { type BankLine, type Clearing, differenceAccount, type EntryContent, type Minor, minor } from '@wise-margin/core';

import type { Books, BooksCache } from '../companies/index.ts';
import { type Actor, recordAudit } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import { notFound, ProblemError, refused } from '../http/problem.ts';
import type { EntryMaking } from '../ledger/index.ts';
import { linesById, loadAccount, openLines } from './loaded-account.ts';
import type { CashAccount, NewClearing, StatementStore } from './statement-store.ts';

/** What people do with a reconciliation: clear lines, take that back, post what the ledger lacks, force and explain differences. */
export class ClearingService {
  readonly #database: Database;
  readonly #booksCache: BooksCache;
  readonly #entryMaking: EntryMaking;
  readonly #store: StatementStore;

  constructor(options: {
    readonly database: Database;
    readonly booksCache: BooksCache;
    readonly entryMaking: EntryMaking;
    readonly store: StatementStore;
  }) {
    this.#database = options.database;
    this.#booksCache = options.booksCache;
    this.#entryMaking = options.entryMaking;
    this.#store = options.store;
  }

  /** Marks lines as the same money. @throws ProblemError 422 where amounts differ, 409 where a line is cleared already */
  async clear(
    companyId: number,
    { account: number, clearings }: { readonly account: string; readonly clearings: readonly Omit<Clearing, 'id'>[] },
    actor: Actor,
  ): Promise<void> {
    const { account, ...free } = await this.#free(companyId, number);
    const lines = linesById(free);
    for (const { bank, ledger } of clearings) {
      const sums = [sumOf(bank, lines.bank), sumOf(ledger, lines.ledger)];
      if (sums[0] !== sums[1])
        throw refused('The lines selected do not add up to the same amount. Select others, or clear them with a difference.', 'clearings');
    }
    refuseTwice(clearings.flatMap(({ bank }) => bank));
    refuseTwice(clearings.flatMap(({ ledger }) => ledger));
    await this.#database.write(async (transaction) => {
      await this.#refuseCleared(clearings, transaction);
      for (const { bank, ledger } of clearings)
        await this.#store.addClearing(account, { kind: 'matched', bank, ledger }, { actor, transaction });
      const details = { account: number, clearings: clearings.length };
      await recordAudit(
        this.#database,
        { companyId, actor, action: 'reconciliation.clear', subject: `account ${number}`, details },
        transaction,
      );
    });
  }

  /** Takes a clearing back; an entry that was posted with it stays. @throws ProblemError 404 */
  async unclear(companyId: number, id: number, actor: Actor): Promise<void> {
    await this.#database.write(async (transaction) => {
      const [row] = await this.#database.select<{ id: number }>(
        'SELECT id FROM clearings WHERE id = $1 AND company_id = $2',
        [id, companyId],
        transaction,
      );
      if (!row) throw notFound(`clearing ${id}`);
      await this.#store.removeClearing(id, transaction);
      await recordAudit(
        this.#database,
        { companyId, actor, action: 'reconciliation.unclear', subject: `clearing ${id}`, details: {} },
        transaction,
      );
    });
  }

  /** Posts a line of a statement that the ledger lacks, such as a charge of the bank, and clears it. */
  async postAdjustment(
    companyId: number,
    { account: number, bankLine, to, dimensions = {}, memo = '' }: PostAdjustment,
    actor: Actor,
  ): Promise<void> {
    const { books, account, bank } = await this.#free(companyId, number);
    const line = bank.find(({ id }) => id === bankLine);
    if (!line) throw notFree();
    await this.#post(
      { books, account, actor },
      {
        content: entryOf(line, { number, to, dimensions, memo: memo || line.text }),
        reason: `From the bank statement: ${line.text}`.slice(0, 500),
        clearing: { kind: 'adjustment', bank: [line.id], ledger: [], otherAccount: to },
      },
    );
  }

  /**
   * Clears lines that do not add up, and posts what is between them to the watched account, where it stays in view until
   * it is explained.
   * @throws ProblemError 422 where they add up, or no account is kept for differences
   */
  async force(
    companyId: number,
    {
      account: number,
      bank: ofBank,
      ledger: ofLedger,
      reason,
    }: { readonly account: string; readonly bank: readonly number[]; readonly ledger: readonly number[]; readonly reason: string },
    actor: Actor,
  ): Promise<void> {
    const { books, account, bank, ledger } = await this.#free(companyId, number);
    const to = differenceAccount(books.chart);
    if (to === null)
      throw refused('No account is kept for differences. Add one whose name has "Reconciliation differences", such as 6790.', 'account');
    const banks = bank.filter(({ id }) => ofBank.includes(id));
    const lines = linesById({ bank, ledger });
    const difference = sumOf(ofBank, lines.bank) - sumOf(ofLedger, lines.ledger);
    if (difference === 0) throw refused('The lines selected add up. Match them without a difference.', 'bank');
    const last = banks.reduce((latest, line) => (line.date > latest.date ? line : latest), banks[0]!);
    await this.#post(
      { books, account, actor },
      {
        content: entryOf(
          { ...last, amount: minor(difference), party: '', reference: '' },
          { number, to, dimensions: {}, memo: `Difference in bank reconciliation: ${reason}` },
        ),
        reason,
        clearing: { kind: 'difference', bank: ofBank, ledger: ofLedger, difference, reason },
      },
    );
  }

  /** Says what a forced difference was; an empty text brings it back into view. @throws ProblemError 404 */
  async explain(
    companyId: number,
    id: number,
    { explanation, actor }: { readonly explanation: string; readonly actor: Actor },
  ): Promise<void> {
    await this.#database.write(async (transaction) => {
      const [row] = await this.#database.select<{ explanation: string }>(
        "SELECT explanation FROM clearings WHERE id = $1 AND company_id = $2 AND kind = 'difference'",
        [id, companyId],
        transaction,
      );
      if (!row) throw notFound(`forced difference ${id}`);
      await this.#database.run('UPDATE clearings SET explanation = $1 WHERE id = $2', [explanation, id], transaction);
      const changes = [{ what: 'explanation', from: row.explanation || null, to: explanation || null }];
      await recordAudit(
        this.#database,
        { companyId, actor, action: 'reconciliation.explain', subject: `difference ${id}`, details: {}, changes },
        transaction,
      );
    });
  }

  /** Marks a line before the first statement as one that the bank had not seen by then, or no longer. */
  async mark(
    companyId: number,
    { account: number, line, isOutstanding }: { readonly account: string; readonly line: number; readonly isOutstanding: boolean },
    actor: Actor,
  ): Promise<void> {
    const { account } = await this.#free(companyId, number);
    const sql = isOutstanding
      ? `INSERT OR IGNORE INTO outstanding_lines (line_id, company_id) SELECT l.id, $2 FROM lines l WHERE l.id = $1 AND l.account_id = $3`
      : 'DELETE FROM outstanding_lines WHERE line_id = $1 AND company_id = $2 AND $3 = $3';
    await this.#database.write(async (transaction) => {
      await this.#database.run(sql, [line, companyId, account.accountId], transaction);
      const details = { line, isOutstanding };
      await recordAudit(
        this.#database,
        { companyId, actor, action: 'reconciliation.mark', subject: `account ${number}`, details },
        transaction,
      );
    });
  }

  /** An entry, and the clearing that its line of the cash account belongs to: both or neither. */
  async #post(
    { books, account, actor }: { readonly books: Books; readonly account: CashAccount; readonly actor: Actor },
    { content, reason, clearing }: { readonly content: EntryContent; readonly reason: string; readonly clearing: NewClearing },
  ): Promise<void> {
    await this.#entryMaking.makeOne(books, {
      content,
      reason,
      actor,
      after: async (entries, transaction) => {
        await this.#refuseCleared([clearing], transaction);
        const lines = await this.#database.select<{ id: number }>(
          'SELECT id FROM lines WHERE entry_id IN (SELECT value FROM json_each($1)) AND account_id = $2',
          [JSON.stringify(entries), account.accountId],
          transaction,
        );
        await this.#store.addClearing(
          account,
          { ...clearing, ledger: [...clearing.ledger, ...lines.map(({ id }) => id)] },
          { actor, transaction },
        );
      },
    });
  }

  async #refuseCleared(
    clearings: readonly Pick<Clearing, 'bank' | 'ledger'>[],
    transaction: Parameters<Database['run']>[2],
  ): Promise<void> {
    const [row] = await this.#database.select<{ cleared: number }>(
      `SELECT (SELECT count(*) FROM bank_lines WHERE clearing_id IS NOT NULL AND id IN (SELECT value FROM json_each($1)))
         + (SELECT count(*) FROM cleared_lines WHERE line_id IN (SELECT value FROM json_each($2))) AS cleared`,
      [JSON.stringify(clearings.flatMap(({ bank }) => bank)), JSON.stringify(clearings.flatMap(({ ledger }) => ledger))],
      transaction,
    );
    if (row!.cleared > 0) throw notFree();
  }

  async #free(companyId: number, number: string) {
    const books = await this.#booksCache.of(companyId);
    const loaded = await loadAccount(this.#store, { books, number, all: await this.#store.statements(companyId) });
    return { books, account: loaded.account, ...openLines(loaded) };
  }
}

const notFree = () => new ProblemError(409, 'Cleared already', 'A line was cleared or removed meanwhile. Look at the lines again.');

/** @throws ProblemError 409 where a line is not free */
function sumOf(ids: readonly number[], lines: ReadonlyMap<number, { readonly amount: Minor }>): number {
  return ids.reduce((sum, id) => {
    const line = lines.get(id);
    if (!line) throw notFree();
    return sum + line.amount;
  }, 0);
}
function refuseTwice(ids: readonly number[]): void {
  if (new Set(ids).size < ids.length) throw refused('A line is in two clearings. Each line is cleared once.', 'clearings');
}

/** The entry of a line of a statement: the cash account, and where the rest goes. */
function entryOf(
  { date, amount, party, reference }: BankLine,
  {
    number,
    to,
    dimensions,
    memo,
  }: { readonly number: string; readonly to: string; readonly dimensions: Readonly<Record<string, string>>; readonly memo: string },
): EntryContent {
  const common = { memo, party, document: reference.slice(0, 200), due: null };
  return {
    date,
    source: 'bank',
    kind: 'ordinary',
    state: 'posted',
    lines: [
      { account: number, amount, dimensions: {}, ...common },
      { account: to, amount: minor(-amount), dimensions, ...common },
    ],
  };
}
